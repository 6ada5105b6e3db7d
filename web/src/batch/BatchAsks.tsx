import type { Batch, BatchState } from "./batch";

/** So many lines are named; the others are counted. */
const NAMED = 4;

/** What asks on the lines, asked once for all of them, below them. It never takes the cursor; what is typed on puts it by. */
export function BatchAsks({ batch, state }: { batch: Batch; state: BatchState }) {
  const asks = state.question;
  return (
    <div className="refused asks" role="alert" aria-label="Asked about">
      <span className="what">
        {asks
          .slice(0, NAMED)
          .map((ask) => `Line ${ask.line}: ${ask.message}`)
          .join(" ")}
        {asks.length > NAMED && ` And ${asks.length - NAMED} more.`}
      </span>
      <button type="button" className="btn go" onClick={() => batch.sayYes()}>
        Save {asks.length === 1 ? "it" : "them"} so <kbd>Alt Y</kbd>
      </button>
      <button type="button" className="btn" onClick={() => backToLines(batch)}>
        Back to the lines <kbd>Alt B</kbd>
      </button>
      <span className="hint">or type on: nothing is saved yet</span>
    </div>
  );
}

/** Nothing is asked any more, and the cursor is in the lines. */
export function backToLines(batch: Batch) {
  batch.goBack();
  document.getElementById("cell")?.focus();
}
