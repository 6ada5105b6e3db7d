import { useEffect, useRef } from "react";
import type { DeskForm as Form, FormButton } from "../api/client";
import { likesOf } from "../entry/entry";
import { inputId } from "../form/FieldView";
import type { Presses } from "../form/view";
import { focusable, isButton, itemsOf } from "../model/items";
import type { DeskDoings } from "../sitting/useDesk";

interface Doings {
  desk: DeskDoings;
  presses: Presses;
  rows: () => void;
  keys: () => void;
  remove: () => void;
  history: () => void;
  quick: () => void;
  /** To what the link in a field leads to, and back from there. */
  follow: (column: string) => void;
  back: (() => void) | undefined;
  /** To many lines at once, where the door leaves it open. */
  lines: (() => void) | undefined;
  /** Whether something lies over the form and takes the keys. */
  covered: boolean;
}

const MODIFIERS = new Set(["Shift", "Control", "Alt", "Meta", "AltGraph", "CapsLock"]);

/** The keys at the Desk. They are caught before any widget sees them, so that saving is the same everywhere. */
export function useDeskKeys(form: Form, doings: Doings) {
  const latest = useRef(doings);
  latest.current = doings;
  useEffect(() => {
    const fields = focusable(form);
    const buttons = itemsOf(form).filter(isButton);
    const keyed = {
      Enter: buttons.find((each) => each.key === "enter"),
      Escape: buttons.find((each) => each.key === "esc"),
    };
    const ids = fields.map((field) => inputId(field.column));
    // What stood in the field when one came to it, of the entry with that beginning.
    let before: { id: string; text: string; of?: object } = { id: "", text: "" };

    let pointed = false;
    const points = () => {
      pointed = true;
    };

    const focused = (e: FocusEvent) => {
      const id = (e.target as HTMLElement).id;
      const column = fields[ids.indexOf(id)]?.column;
      const { typed, base } = latest.current.desk.sitting.entry.snapshot();
      if (column) before = { id, text: typed[column] ?? "", of: base };
      // What stands in a field that is entered gives way to the first key, unless one points into it.
      // A list that hangs open only pretends to give the focus back.
      if (column && !pointed && e.isTrusted && e.target instanceof HTMLInputElement) e.target.select();
      pointed = false;
    };

    /** Esc puts the field back as it is stored, or as it was when one came to it; then the whole entry. */
    const putBack = (at: number) => {
      const { sitting, find } = latest.current.desk;
      const { typed, base, record } = sitting.entry.snapshot();
      const column = fields[at]?.column ?? "";
      const came = before.id === ids[at] && before.of === base;
      const was = record || !came ? ((record ? base : typed)[column] ?? "") : before.text;
      if (!find.asking && (typed[column] ?? "") !== was) sitting.entry.type(column, was);
      else if (keyed.Escape && !find.asking) press(keyed.Escape);
      else latest.current.desk.putBack();
    };

    const enter = (e: KeyboardEvent, at: number) => {
      const choosing = open(e) && document.querySelector('[role="option"][data-focused]');
      if (choosing || e.shiftKey || e.isComposing) return false;
      // In a picture field where none is yet, Enter chooses one.
      if (fields[at]?.widget === "picture" && !(e.target as HTMLElement).querySelector("img") && !e.ctrlKey)
        return false;
      const next = ids[at + 1];
      const { find } = latest.current.desk;
      if (form.enter === "moves-on" && next && !e.ctrlKey && !find.asking)
        document.getElementById(next)?.focus();
      else if (keyed.Enter && !e.ctrlKey && !find.asking) press(keyed.Enter);
      else latest.current.desk.save();
      return true;
    };

    /** What was sent or refused gives way to a key that is typed in the form, or nowhere. */
    const giveWay = (e: KeyboardEvent): boolean => {
      const elsewhere = (e.target as HTMLElement).closest?.(".tray, .rail, .top, .rows-drawer, .refused");
      const { sitting } = latest.current.desk.sitting;
      return !elsewhere && sitting.giveWay();
    };

    const press = (button: FormButton) => {
      const { presses } = latest.current;
      if (presses.can(button)) presses.press(button);
    };

    /** As in the entry before: the field one is in, or with Shift all that are empty. */
    const asBefore = (e: KeyboardEvent) => {
      const { entry, state } = latest.current.desk.sitting;
      const column = fields[ids.indexOf((e.target as HTMLElement)?.id ?? "")]?.column;
      if (state.record || latest.current.desk.find.asking) return;
      const meant = e.shiftKey ? fields.map((field) => field.column) : column ? [column] : [];
      entry.asBefore(meant.filter((each) => !e.shiftKey || !entry.snapshot().typed[each]?.trim()));
    };

    /** Opens the record of that number that the entry is nearly the same as, or says that it is none of them. */
    const like = (number: number) => {
      const { desk } = latest.current;
      const likes = desk.find.asking ? undefined : likesOf(desk.sitting.state);
      const one = likes?.records[number - 1];
      if (one) return () => desk.open(one.id);
      return likes && number === 0 ? () => desk.sitting.entry.sayNew(likes.rule) : undefined;
    };

    /** The keys that work wherever one is at the Desk. */
    const anywhere = (e: KeyboardEvent): (() => void) | undefined => {
      const { desk, rows, keys, remove, history, quick, lines, follow, back } = latest.current;
      const command = e.ctrlKey || e.metaKey;
      const key = e.key.length === 1 ? e.key.toLowerCase() : e.key;
      if (key === "F1") return keys;
      if (key === "F8") return rows;
      if (key === "F3") return () => desk.match(e.shiftKey ? "previous" : "next");
      if (command && e.shiftKey && key === "f") return quick;
      if (command && key === "f") return desk.find.open;
      if (command && (key === "s" || key === "Enter")) return () => desk.save(true);
      if (command && key === "z" && desk.sitting.sitting.cleared) return desk.sitting.undoClear;
      if (e.altKey && key === "n") return desk.browse.fresh;
      if (e.altKey && key === "l") return lines;
      if (e.altKey && key === "h") return history;
      if (e.altKey && key === "o") {
        const column = fields[ids.indexOf((e.target as HTMLElement)?.id ?? "")]?.column;
        return column ? () => follow(column) : undefined;
      }
      if (e.altKey && key === "Backspace") return back;
      // Who holds an answer's key down answers once.
      if (answers(e) && e.repeat) return () => {};
      if (e.altKey && key === "y")
        return e.shiftKey ? desk.sitting.sitting.sayYesToAll : desk.sitting.sitting.sayYes;
      if (e.altKey && key === "z") return desk.sitting.sitting.sayNo;
      // The keys above the letters, whatever they type; on the block of digits one types signs by their numbers.
      if (e.altKey && !e.ctrlKey && /^Digit[0-5]$/.test(e.code)) return like(Number(e.code.at(-1)));
      if (e.altKey && key === "b")
        return () => {
          if (desk.find.asking) desk.find.leave();
          if (!desk.sitting.sitting.back()) desk.drafts.bringBackLatest();
        };
      if (e.altKey && key === "Delete") return remove;
      if (inRows(e)) return undefined;
      if (e.altKey && key === "ArrowUp") return () => asBefore(e);
      if (key === "PageDown") return () => desk.step(e.altKey ? "last" : "next");
      if (key === "PageUp") return () => desk.step(e.altKey ? "first" : "previous");
      return undefined;
    };

    const pressed = (e: KeyboardEvent) => {
      pointed = false;
      const { desk, covered } = latest.current;
      // A dialog has its keys to itself, whoever opened it.
      if (covered || (e.target as HTMLElement).closest?.('[role="dialog"]')) return;
      let at = ids.indexOf((e.target as HTMLElement)?.id ?? "");
      if (!desk.find.asking && !MODIFIERS.has(e.key) && !answers(e) && giveWay(e)) {
        // The field or the cell that was left is not to act on it.
        e.stopPropagation();
        at = ids.indexOf(document.activeElement?.id ?? "");
      }
      const doing = anywhere(e);
      let done = true;
      if (doing) doing();
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
    window.addEventListener("pointerdown", points, true);
    return () => {
      window.removeEventListener("keydown", pressed, true);
      window.removeEventListener("focusin", focused);
      window.removeEventListener("pointerdown", points, true);
    };
  }, [form]);
}

/** What answers what is asked, or helps to; no other key does. */
function answers(e: KeyboardEvent): boolean {
  return e.key === "F1" || (e.altKey && ["y", "z", "b"].includes(e.key.toLowerCase()));
}

/** Whether a list hangs open below the field, which Esc then closes first. */
function open(e: KeyboardEvent): boolean {
  return (e.target as HTMLElement).getAttribute("aria-expanded") === "true";
}

/** The rows have page keys of their own. */
function inRows(e: KeyboardEvent): boolean {
  return (e.target as HTMLElement).closest?.('[role="grid"]') !== null;
}
