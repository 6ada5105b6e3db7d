import type { DeskForm as Form } from "../api/client";
import { when } from "../model/when";
import type { DeskDoings } from "../sitting/useDesk";
import { inTwoLines } from "./trayWords";

/** What was typed before and not saved, offered when one comes back. */
export function Offer({ form, desk }: { form: Form; desk: DeskDoings }) {
  const { offered, bringBack, drop } = desk.drafts;
  return offered.map((draft, place) => (
    <div key={draft.key} className="offer" role="group" aria-label="Not saved yet">
      <span className="min-w-0 flex-1">
        Not saved, from {when(new Date(draft.at).toISOString())}:{" "}
        <b>
          {draft.record ? `changes in row ${draft.record.row}: ` : ""}
          {Object.values(inTwoLines(form, draft.typed)).filter(Boolean).join(", ")}
        </b>
      </span>
      <button type="button" className="btn small go" onClick={() => bringBack(draft)}>
        Bring it back {place === 0 && <kbd>Alt B</kbd>}
      </button>
      <button type="button" className="btn small" onClick={() => drop(draft)}>
        Delete it
      </button>
    </div>
  ));
}
