import { useEffect, useRef } from "react";
import type { Form } from "../api/client";
import { inputId } from "../form/FieldView";
import type { useSitting } from "./useSitting";

interface Doings {
  rows: () => void;
  keys: () => void;
  /** Whether something lies over the form and takes the keys. */
  covered: boolean;
}

const MODIFIERS = new Set(["Shift", "Control", "Alt", "Meta", "AltGraph", "CapsLock", "Dead"]);

/** The keys at the Desk. They are caught before any widget sees them, so that saving is the same everywhere. */
export function useDeskKeys(form: Form, sitting: ReturnType<typeof useSitting>, doings: Doings) {
  const latest = useRef({ sitting, doings });
  latest.current = { sitting, doings };
  useEffect(() => {
    const fields = form.sections.flatMap((section) => section.fields);
    const ids = fields.map((field) => inputId(field.column));
    let before = { id: "", text: "" };

    const focused = (e: FocusEvent) => {
      const id = (e.target as HTMLElement).id;
      const column = fields[ids.indexOf(id)]?.column;
      if (column) before = { id, text: latest.current.sitting.entry.snapshot().typed[column] ?? "" };
    };

    const putBack = (at: number) => {
      const { entry, clear } = latest.current.sitting;
      const column = fields[at]?.column ?? "";
      const text = entry.snapshot().typed[column] ?? "";
      if (before.id === ids[at] && before.text !== text) entry.type(column, before.text);
      else clear();
    };

    const enter = (e: KeyboardEvent, at: number) => {
      const choosing = open(e) && document.querySelector('[role="option"][data-focused]');
      if (choosing || e.shiftKey || e.isComposing) return false;
      const next = ids[at + 1];
      if (form.enter === "moves-on" && next && !e.ctrlKey) document.getElementById(next)?.focus();
      else latest.current.sitting.save();
      return true;
    };

    const pressed = (e: KeyboardEvent) => {
      const { sitting, doings } = latest.current;
      if (doings.covered) return;
      const at = ids.indexOf((e.target as HTMLElement)?.id ?? "");
      const command = e.ctrlKey || e.metaKey;
      sitting.keyed();
      // The save is under way: this key belongs to the next entry.
      if (sitting.entry.snapshot().pending && !MODIFIERS.has(e.key) && at >= 0) sitting.turn();
      let done = true;
      if (e.key === "F1") doings.keys();
      else if (e.key === "F8") doings.rows();
      else if (command && e.key.toLowerCase() === "s") sitting.save();
      else if (command && e.key === "Enter") sitting.save();
      else if (e.key === "Enter" && at >= 0) done = enter(e, at);
      else if (e.key === "Escape" && at >= 0 && !open(e)) putBack(at);
      else done = false;
      if (done) {
        e.preventDefault();
        e.stopPropagation();
      }
    };
    window.addEventListener("keydown", pressed, true);
    window.addEventListener("focusin", focused);
    return () => {
      window.removeEventListener("keydown", pressed, true);
      window.removeEventListener("focusin", focused);
    };
  }, [form]);
}

/** Whether a list hangs open below the field, which Esc then closes first. */
function open(e: KeyboardEvent): boolean {
  return (e.target as HTMLElement).getAttribute("aria-expanded") === "true";
}
