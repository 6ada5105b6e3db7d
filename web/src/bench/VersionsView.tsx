import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answered, api, type Table } from "../api/client";
import { withRevision } from "../api/queries";
import { Cover } from "../ui/Cover";
import { when } from "../ui/when";
import { Sketch } from "./Sketch";
import type { BenchDoings } from "./useBench";

/** The published versions of a form: looked at, compared with the working copy, put back. */
export function VersionsView({
  bench,
  table,
  close,
}: {
  bench: BenchDoings;
  table: Table;
  close: () => void;
}) {
  const { form } = bench;
  const versions = useQuery({
    queryKey: ["versions", form.id],
    queryFn: () => answered(api.GET("/api/forms/{form}/versions", { params: { path: { form: form.id } } })),
  }).data;
  const [chosen, setChosen] = useState<number>();
  const version = chosen ?? versions?.[0]?.version;
  const path = { form: form.id, version: version ?? 0 };
  const there = useQuery({
    queryKey: ["version", form.id, version],
    queryFn: () => withRevision(api.GET("/api/forms/{form}/versions/{version}", { params: { path } })),
    enabled: version !== undefined,
  }).data?.form;
  const different = useQuery({
    queryKey: ["bench", form.id, "since", version],
    queryFn: () => answered(api.GET("/api/forms/{form}/versions/{version}/changes", { params: { path } })),
    enabled: version !== undefined,
  }).data;
  return (
    <Cover name="Versions" close={close} wide>
      <div className="versions">
        <div>
          <h2>Versions of {form.title}</h2>
          {versions?.length === 0 && <p className="text-soft">It is not published yet.</p>}
          <ol>
            {versions?.map((each) => (
              <li key={each.version}>
                <button
                  type="button"
                  aria-pressed={each.version === version}
                  onClick={() => setChosen(each.version)}
                >
                  <b>Version {each.version}</b>
                  <span>
                    {when(each.at)} · {each.by}
                  </span>
                  <span>{each.words.slice(0, 4).join("; ") || "nothing changed"}</span>
                </button>
              </li>
            ))}
          </ol>
        </div>
        {there && (
          <div>
            <Sketch
              form={there}
              table={table}
              marked={different?.map((change) => change.item) ?? []}
              name={`Version ${version}`}
            />
            <p className="text-soft">
              {different?.length === 0
                ? "The working copy is the same."
                : `In the working copy since: ${different?.map((change) => change.words).join("; ")}.`}
            </p>
            <button
              type="button"
              className="btn mt-3"
              disabled={different?.length === 0}
              onClick={async () => {
                if (await bench.restore(version ?? 0)) {
                  bench.say(`Version ${version} is put back into the working copy; publish it to use it.`);
                  close();
                }
              }}
            >
              Put version {version} back
            </button>
          </div>
        )}
      </div>
    </Cover>
  );
}
