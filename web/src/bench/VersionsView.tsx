import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answered, api, type Table } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { withRevision } from "../api/queries";
import { when } from "../model/when";
import { KINDS } from "./PublishView";
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
    queryKey: queryKeyOf("versions", form.id),
    queryFn: () => answered(api.GET("/api/forms/{form}/versions", { params: { path: { form: form.id } } })),
  }).data;
  const [chosen, setChosen] = useState<number>();
  const version = chosen ?? versions?.[0]?.version;
  const path = { form: form.id, version: version ?? 0 };
  const there = useQuery({
    queryKey: queryKeyOf("version", form.id, version),
    queryFn: () => withRevision(api.GET("/api/forms/{form}/versions/{version}", { params: { path } })),
    enabled: version !== undefined,
  }).data?.form;
  const different = useQuery({
    queryKey: queryKeyOf("bench", form.id, "since", version),
    queryFn: () => answered(api.GET("/api/forms/{form}/versions/{version}/changes", { params: { path } })),
    enabled: version !== undefined,
  }).data;
  return (
    <div className="beside-pane versions">
      <div>
        <h2>Versions of {form.title}</h2>
        {versions?.length === 0 && <p className="text-soft">It is not published yet.</p>}
        <ol>
          {versions?.map((each) => (
            <li key={each.version}>
              <button
                type="button"
                // biome-ignore lint/a11y/noAutofocus: Esc and the keys begin here
                autoFocus={each === versions[0]}
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
            {different?.length === 0 ? "The working copy is the same." : "In the working copy since:"}
          </p>
          <ul className="changes-list" aria-label="What changed since">
            {different?.map((change) => (
              <li key={change.kind + change.words + change.item}>
                <span className={`mark ${change.kind}`}>{KINDS[change.kind] ?? change.kind}</span>
                <span>
                  {change.words}
                  {change.before && (
                    <small>
                      before: <del>{change.before}</del>
                    </small>
                  )}
                </span>
              </li>
            ))}
          </ul>
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
      <button type="button" className="btn justify-self-start" onClick={close}>
        Close <kbd>Esc</kbd>
      </button>
    </div>
  );
}
