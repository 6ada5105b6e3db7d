import { useState } from "react";
import type { DeskForm as Form } from "../api/client";
import { fieldsOf } from "../model/items";
import type { Conflict } from "../sitting/recording";
import type { DeskDoings } from "../sitting/useDesk";
import { Cover } from "../ui/Cover";

type Side = "mine" | "theirs";

/** Two versions of one record side by side; one chooses field by field, and nothing is overwritten unseen. */
export function ConflictView({ form, desk }: { form: Form; desk: DeskDoings }) {
  const { conflict, settle, later } = desk.record;
  if (!conflict) return null;
  return (
    <Cover name="Somebody else changed this record" close={later} wide>
      <Choice key={conflict.now.version} form={form} conflict={conflict} settle={settle} later={later} />
    </Cover>
  );
}

interface Props {
  form: Form;
  conflict: Conflict;
  settle: DeskDoings["record"]["settle"];
  later: () => void;
}

function Choice({ form, conflict, settle, later }: Props) {
  const { base, mine, theirs, now } = conflict;
  const fields = fieldsOf(form).filter(
    ({ column }) => (mine[column] ?? "").trim() !== (theirs[column] ?? ""),
  );
  // What only one of the two changed is that one's; what both changed must be chosen.
  const [chosen, choose] = useState<Record<string, Side | undefined>>(() =>
    Object.fromEntries(
      fields.map(({ column }) => [
        column,
        (mine[column] ?? "").trim() === (base[column] ?? "")
          ? "theirs"
          : theirs[column] === base[column]
            ? "mine"
            : undefined,
      ]),
    ),
  );
  const open = fields.filter(({ column }) => !chosen[column]);
  const first = Math.max(
    0,
    fields.findIndex(({ column }) => !chosen[column]),
  );
  const save = () =>
    settle(
      Object.fromEntries(
        fields.map(({ column }) => [column, (chosen[column] === "mine" ? mine : theirs)[column] ?? ""]),
      ),
    );
  return (
    <div className="grid gap-3 p-5">
      <h2>Somebody else changed row {now.row} while you did</h2>
      <p className="text-soft">Nothing was overwritten. Choose what each field is to hold, then save.</p>
      <div className="conflict">
        <span />
        <b>Yours</b>
        <b>Theirs, stored now</b>
        {fields.map(({ column, label }, at) => (
          <div key={column} role="radiogroup" aria-label={label} className="contents">
            <span className="font-semibold">
              {label}
              <small className="block font-normal text-soft">was {base[column] || "empty"}</small>
            </span>
            {(["mine", "theirs"] as const).map((side) => (
              <label key={side} className={chosen[column] === side ? "on" : ""}>
                <input
                  type="radio"
                  className="radio"
                  name={`conflict-${column}`}
                  // biome-ignore lint/a11y/noAutofocus: the first choice to be made is where the keys belong
                  autoFocus={at === first && side === (chosen[column] ?? "mine")}
                  tabIndex={side === (chosen[column] ?? "mine") ? 0 : -1}
                  checked={chosen[column] === side}
                  onChange={() => choose({ ...chosen, [column]: side })}
                />
                <span className="font-mono">{(side === "mine" ? mine : theirs)[column] || "empty"}</span>
              </label>
            ))}
          </div>
        ))}
      </div>
      <div className="flex items-center gap-3">
        <button type="button" className="btn go" disabled={open.length > 0} onClick={save}>
          Save what is chosen
        </button>
        <button type="button" className="btn" onClick={later}>
          Back to the form <kbd>Esc</kbd>
        </button>
        {open.length > 0 && (
          <span className="text-weld">
            Choose {open.map(({ label }) => label).join(", ")}: both of you changed{" "}
            {open.length === 1 ? "it" : "them"}.
          </span>
        )}
      </div>
    </div>
  );
}
