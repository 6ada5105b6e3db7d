import type { Visit } from "./visits";

/** Says for which entry one has come here, and leads back there. */
export function OnTheWay({ visit, back }: { visit: Visit; back: () => void }) {
  return (
    <div className="offer" role="group" aria-label="On the way">
      <span className="min-w-0 flex-1">
        {visit.open === null ? "A new record" : "Looked at"} for <b>{visit.label}</b> of {visit.title}.
      </span>
      <button type="button" className="btn small go" onClick={back}>
        Back to {visit.title} <kbd>Alt Backspace</kbd>
      </button>
    </div>
  );
}
