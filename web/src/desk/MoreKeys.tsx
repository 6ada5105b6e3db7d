import { useEffect, useRef, useState } from "react";
import type { DeskForm as Form } from "../api/client";
import type { Kept } from "../entry/sitting";
import { inputId } from "../form/FieldView";
import { focusable } from "../model/items";
import type { DeskDoings } from "../sitting/useDesk";
import { PickByName } from "../ui/PickByName";

const MINUTE = 60_000;

/** Whether a saved entry may be taken back still, and put back again. */
export const mayTakeBack = (form: Form, { at, older }: Kept, now: number) =>
  form.door.may.includes("remove") || (!older && now - at < form.door.takeBack * MINUTE);

interface Props {
  form: Form;
  desk: DeskDoings;
  /** Takes a saved entry back, and puts back the one that was taken back last. */
  undo: (last: Kept) => void;
  redo: () => void;
}

/** The keys that are seldom pressed: the last save undone and done again, a copy of a record, and the way to a field. */
export function MoreKeys(props: Props) {
  const latest = useRef(props);
  latest.current = props;
  const [going, setGoing] = useState(false);
  useEffect(() => {
    const pressed = (e: KeyboardEvent) => {
      const doing = e.defaultPrevented ? undefined : meant(e, latest.current, () => setGoing(true));
      if (!doing) return;
      e.preventDefault();
      doing();
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, []);
  return going ? <ToField form={props.form} close={() => setGoing(false)} /> : null;
}

/** What a key does here; nothing where it is another's. */
function meant(
  e: KeyboardEvent,
  { form, desk, undo, redo }: Props,
  go: () => void,
): (() => void) | undefined {
  const { sitting, find } = desk;
  const key = e.key.toLowerCase();
  const elsewhere = (e.target as HTMLElement).closest?.("[role=dialog], .rows-drawer, .top, .rail");
  if (find.asking || elsewhere) return undefined;
  if (e.altKey && key === "j") return go;
  if (e.altKey && key === "c" && sitting.state.record) return () => copy(form, desk);
  // While something is typed, these undo and redo the typing.
  if (!(e.ctrlKey || e.metaKey) || !sitting.entry.blank) return undefined;
  if (key === "y" || (key === "z" && e.shiftKey)) return redo;
  const last = key === "z" ? sitting.kept.find(({ taken, older }) => !taken && !older) : undefined;
  return last && mayTakeBack(form, last, Date.now()) ? () => undo(last) : undefined;
}

/** The record in the form as a new entry: what people type into it, but for pictures. */
async function copy(form: Form, desk: DeskDoings) {
  const { sitting, browse } = desk;
  const { record, base } = sitting.entry.snapshot();
  if (!record || !form.door.may.includes("add")) return;
  const typed = focusable(form)
    .filter(({ widget, use }) => widget !== "picture" && use !== "read-only")
    .map(({ column }) => [column, base[column] ?? ""] as const)
    .filter(([, text]) => text);
  await browse.fresh();
  if (sitting.entry.snapshot().record) return;
  if (!sitting.entry.blank) sitting.putAside(true);
  sitting.entry.stopped(Object.fromEntries(typed), []);
  sitting.say(`A copy of row ${record.row}. Change what is different, and save.`);
  sitting.focusFirst();
}

/** Goes to a field by the letters of its label. */
function ToField({ form, close }: { form: Form; close: () => void }) {
  const fields = focusable(form).map(({ id, label, column }) => ({ id, name: label, column }));
  return (
    <PickByName
      name="Go to a field"
      label="The first letters of its label"
      items={fields}
      none="No field is called so."
      // Once the dialog has given the focus back.
      pick={({ column }) => setTimeout(() => document.getElementById(inputId(column))?.focus())}
      close={close}
    />
  );
}
