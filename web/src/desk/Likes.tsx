import type { DeskForm as Form } from "../api/client";
import { likesOf } from "../entry/entry";
import { counted } from "../model/counted";
import { fieldsOf } from "../model/items";
import { shown } from "../model/shown";
import type { DeskDoings } from "../sitting/useDesk";

/**
 * The stored records that a new entry is nearly the same as, beside the field: one key opens one, and what was typed waits;
 * another says that it is a new one. It takes no key but those.
 */
export function Likes({ form, desk, column }: { form: Form; desk: DeskDoings; column: string }) {
  const likes = likesOf(desk.sitting.state);
  if (!likes || likes.field !== column) return null;
  const must = form.rules?.checks.find(({ id }) => id === likes.rule)?.rule;
  const fields = (must?.kind === "alike" ? must.columns : []).map((each) =>
    fieldsOf(form).find((field) => field.column === each),
  );
  return (
    <div className="likes" role="group" aria-label="Is it one of these?">
      <b>{likes.records.length ? "Is it one of these?" : "It may be here already"}</b>
      {likes.records.map(({ id, row, values, why }, at) => (
        <button key={id} type="button" tabIndex={-1} onClick={() => desk.open(id)}>
          <span className="r">{row}</span>
          <span className="flex-1 truncate">
            {values.map((value, place) => shown(value, fields[place]?.widget, form)).join(", ")}
          </span>
          <span className="why">{why}</span>
          <kbd>Alt {at + 1}</kbd>
        </button>
      ))}
      {likes.unseen > 0 && (
        <p>
          {counted(likes.unseen, "record")} that you can’t see here {likes.unseen === 1 ? "is" : "are"} nearly
          the same.
        </p>
      )}
      <button type="button" tabIndex={-1} onClick={() => desk.sitting.entry.sayNew(likes.rule)}>
        <span className="flex-1">No, a new one</span>
        <kbd>Alt 0</kbd>
      </button>
    </div>
  );
}
