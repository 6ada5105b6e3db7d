import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import type { Table } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { publishedQuery } from "../api/queries";
import { usePractice } from "./rules/PracticeList";
import { Sketch } from "./Sketch";
import type { BenchDoings } from "./useBench";

/** What publishing would change for those who key, in words and as pictures, and the frays that would bite them. */
export function PublishView({
  bench,
  table,
  close,
}: {
  bench: BenchDoings;
  table: Table;
  close: () => void;
}) {
  const { form, state } = bench;
  const queries = useQueryClient();
  const published = useQuery({ ...publishedQuery(form.id), enabled: !!state?.published });
  const [despite, setDespite] = useState(false);
  const [busy, setBusy] = useState(false);
  const notYet = useRef<HTMLButtonElement>(null);
  const biting = state?.frays.filter((fray) => fray.bites) ?? [];
  const off = (usePractice(bench) ?? []).filter((run) => !run.asExpected);
  const changes = state?.changes ?? [];
  const marked = changes.map((change) => change.item);
  const publish = async () => {
    setBusy(true);
    try {
      const { version } = await bench.publish(despite);
      queries.invalidateQueries({ queryKey: queryKeyOf("ruled", form.id) });
      queries.invalidateQueries({ queryKey: queryKeyOf("published", form.id) });
      queries.invalidateQueries({ queryKey: queryKeyOf("bench", form.id) });
      queries.invalidateQueries({ queryKey: queryKeyOf("forms") });
      bench.say(`Published as version ${version}. Desks go over to it between entries.`);
      close();
    } catch (e) {
      bench.say((e as Error).message, true);
      setBusy(false);
      close();
    }
  };
  return (
    <form
      className="beside-pane"
      onSubmit={(e) => {
        e.preventDefault();
        publish();
      }}
    >
      <h2>
        Publish {form.title}
        {state?.published ? ` as version ${state.published + 1}` : ""}
      </h2>
      {biting.length > 0 && (
        <section className="biting" aria-label="Frays that would bite">
          <ul>
            {biting.map((fray) => (
              <li key={fray.id}>
                {fray.sentence}{" "}
                {fray.mend && (
                  <button
                    type="button"
                    className="btn small"
                    onClick={() => {
                      notYet.current?.focus();
                      bench.mend(fray.id);
                    }}
                  >
                    {fray.mend}
                  </button>
                )}
              </li>
            ))}
          </ul>
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={despite}
              onChange={(e) => setDespite(e.target.checked)}
            />
            Publish in spite of {biting.length === 1 ? "this fray" : `these ${biting.length} frays`}
          </label>
        </section>
      )}
      {state?.published ? (
        <ul className="changes-list" aria-label="What changes">
          {changes.map((change) => (
            <li key={change.kind + change.words + change.item}>
              <span className={`mark ${change.kind}`}>{KINDS[change.kind] ?? change.kind}</span>
              <button type="button" onClick={() => change.item && bench.select(change.item)}>
                {change.words}
                {change.before && (
                  <small>
                    before: <del>{change.before}</del>
                  </small>
                )}
              </button>
            </li>
          ))}
        </ul>
      ) : (
        <p>Nobody can use this form yet. Published, it is open at the Desk.</p>
      )}
      {off.length > 0 && (
        <section className="biting" aria-label="Practice entries that come out otherwise">
          <p>
            {off.length === 1 ? "A practice entry comes" : `${off.length} practice entries come`} out
            otherwise than expected:
          </p>
          <ul>
            {off.map((run) => (
              <li key={run.id}>
                <b>{run.name}</b>: {run.words}
              </li>
            ))}
          </ul>
        </section>
      )}
      <div className="flex gap-3">
        <button
          type="submit"
          className="btn go"
          // biome-ignore lint/a11y/noAutofocus: it is what one came for
          autoFocus
          disabled={busy || (biting.length > 0 && !despite)}
        >
          Publish <kbd>Enter</kbd>
        </button>
        <button ref={notYet} type="button" className="btn" onClick={close}>
          Cancel <kbd>Esc</kbd>
        </button>
      </div>
      {published.data && (
        <Sketch
          form={published.data.form}
          table={table}
          marked={marked}
          name="At the Desk now; once published, as beside"
        />
      )}
    </form>
  );
}

/** What kind of difference it is, in a word. */
export const KINDS: Record<string, string> = {
  added: "added",
  "taken-off": "taken off",
  renamed: "renamed",
  rethreaded: "thread",
  moved: "moved",
  rules: "rules",
  look: "look",
  settings: "settings",
};
