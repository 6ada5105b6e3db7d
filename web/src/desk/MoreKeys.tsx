import { useEffect, useRef, useState } from "react";
import { Autocomplete, Input, ListBox, ListBoxItem, SearchField, useFilter } from "react-aria-components";
import type { DeskForm as Form, FormField } from "../api/client";
import type { Kept } from "../entry/sitting";
import { inputId } from "../form/FieldView";
import { focusable } from "../model/items";
import type { DeskDoings } from "../sitting/useDesk";
import { Cover } from "../ui/Cover";

const MINUTE = 60_000;

/** Whether a saved entry may be taken back still. */
export const mayTakeBack = (form: Form, { at, taken }: Kept, now: number) =>
  form.door.may.includes("remove") || (!taken && now - at < form.door.takeBack * MINUTE);

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
  const { contains } = useFilter({ sensitivity: "base" });
  const [typed, setTyped] = useState("");
  const all = focusable(form);
  // Those that begin so come first.
  const begins = (field: FormField) => field.label.toLowerCase().startsWith(typed.trim().toLowerCase());
  const fields = [...all.filter(begins), ...all.filter((field) => !begins(field))];
  const go = (field: FormField | undefined) => {
    if (!field) return;
    close();
    // Once the dialog has given the focus back.
    setTimeout(() => document.getElementById(inputId(field.column))?.focus());
  };
  return (
    <Cover name="Go to a field" close={close}>
      <Autocomplete filter={contains} inputValue={typed} onInputChange={setTyped}>
        <SearchField aria-label="The first letters of its label" autoFocus className="p-3">
          <Input
            className="entry"
            placeholder="The first letters of its label"
            onKeyDown={(e) => {
              if (e.key === "Escape") close();
              if (e.key !== "Enter" || document.querySelector(".commands [data-focused]")) return;
              e.preventDefault();
              go(fields.find((field) => contains(field.label, typed)));
            }}
          />
        </SearchField>
        <ListBox
          aria-label="Fields"
          className="commands pb-2"
          items={fields}
          selectionMode="none"
          onAction={(id) => go(fields.find((field) => field.id === id))}
          renderEmptyState={() => <p className="px-4 py-2 text-soft">No field is called so.</p>}
        >
          {(field) => (
            <ListBoxItem id={field.id} textValue={field.label}>
              {field.label}
            </ListBoxItem>
          )}
        </ListBox>
      </Autocomplete>
    </Cover>
  );
}
