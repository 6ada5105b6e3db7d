import { useEffect, useRef } from "react";
import { Cover } from "../ui/Cover";
import type { Batch, BatchState } from "./batch";

/** So many lines are named; the others are counted. */
const NAMED = 8;

/** What asks on the lines, asked once for all of them. Going back is what Enter does. */
export function BatchAsks({ batch, state }: { batch: Batch; state: BatchState }) {
  const first = useRef<HTMLButtonElement>(null);
  const asks = state.question;
  useEffect(() => {
    if (asks.length > 0) first.current?.focus();
  }, [asks]);
  if (asks.length === 0) return null;
  const back = () => {
    batch.goBack();
    setTimeout(() => document.getElementById("cell")?.focus());
  };
  const yes = () => batch.save(Object.fromEntries(asks.map(({ rule, code }) => [rule || code, "yes"])));
  return (
    <Cover name="Save all the same?" close={back}>
      <div className="grid gap-3 p-5">
        <h2>Save all the same?</h2>
        <ul className="grid gap-1">
          {asks.slice(0, NAMED).map((ask) => (
            <li key={`${ask.line} ${ask.rule} ${ask.field}`}>
              <b>Line {ask.line}:</b> {ask.message}
            </li>
          ))}
          {asks.length > NAMED && <li>and {asks.length - NAMED} more.</li>}
        </ul>
        <div className="flex gap-3">
          <button type="button" className="btn go" ref={first} onClick={back}>
            Go back <kbd>Enter</kbd>
          </button>
          <button type="button" className="btn" onClick={yes}>
            Save all the same
          </button>
        </div>
      </div>
    </Cover>
  );
}
