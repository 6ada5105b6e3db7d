import { useEffect, useRef } from "react";
import type { FormField, Ruled } from "../api/client";
import type { At } from "./at";
import { backToLines } from "./BatchAsks";
import type { Batch } from "./batch";
import { cellKey, firstOf } from "./cellKeys";
import { copied, spelled, spread } from "./cells";

interface Doings {
  batch: Batch;
  fields: FormField[];
  ruled: Ruled;
  at: At | undefined;
  move: (to: At) => void;
  save: () => void;
  keys: () => void;
  /** To one entry at a time, where the door leaves it open. */
  other: (() => void) | undefined;
  toSame: () => void;
  /** Whether something lies over the lines and takes the keys. */
  covered: boolean;
}

/** The keys of the lines, caught before any widget sees them. */
export function useBatchKeys(doings: Doings) {
  const latest = useRef(doings);
  latest.current = doings;
  useEffect(() => {
    let before = "";
    const cells = () => {
      const { batch, fields, ruled, move } = latest.current;
      return { model: batch, fields, ruled, move };
    };
    const go = (to: At | undefined) => {
      if (to) latest.current.move(to);
      return !!to;
    };
    const focused = (e: FocusEvent) => {
      const { at, batch, fields } = latest.current;
      if ((e.target as HTMLElement).id === "cell" && at)
        before = batch.snapshot().lines[at.line]?.typed[fields[at.column]?.column ?? ""] ?? "";
    };

    /** In a cell; says whether the key was for the lines. */
    const inCell = (e: KeyboardEvent, at: At): boolean => {
      const { batch, toSame } = latest.current;
      const { lines, checking } = batch.snapshot();
      const listed = (e.target as HTMLElement).getAttribute("aria-expanded") === "true";
      if (e.key === "Escape" && !listed && checking && lines.length > 200) {
        batch.giveUp();
        return true;
      }
      if (cellKey(e, at, before, cells())) return true;
      if (e.key !== "Tab" || !e.shiftKey) return false;
      toSame();
      return true;
    };

    const pressed = (e: KeyboardEvent) => {
      const { covered, at, batch, fields, save, keys, other, toSame } = latest.current;
      if (covered) return;
      const command = e.ctrlKey || e.metaKey;
      const target = e.target as HTMLElement;
      let done = true;
      if (e.key === "F1") keys();
      else if (command && (e.key === "Enter" || e.key.toLowerCase() === "s")) save();
      else if (e.altKey && e.key.toLowerCase() === "l" && other) other();
      else if (e.altKey && e.key.toLowerCase() === "y") batch.sayYes();
      else if (e.altKey && e.key.toLowerCase() === "b") backToLines(batch);
      else if (e.altKey && e.key === "Home") toSame();
      else if (e.altKey && e.key.toLowerCase() === "c") {
        navigator.clipboard.writeText(
          spelled(
            fields,
            batch.typed.map(({ line }) => line.typed),
          ),
        );
        batch.say("The lines were copied, with their headings.");
      } else if (target.id === "cell" && at) done = inCell(e, at);
      else if (target.closest(".same") && e.key === "Enter") done = go(firstOf(cells(), 0));
      else if (target.closest(".same") && e.key === "Tab" && !e.shiftKey && lastOfSame(target))
        done = go(firstOf(cells(), 0));
      else done = false;
      if (done) {
        e.preventDefault();
        e.stopPropagation();
      }
    };
    const pasted = (e: ClipboardEvent) => {
      const { at, batch, fields, covered } = latest.current;
      if (!at || covered || !e.clipboardData || (e.target as HTMLElement).id !== "cell") return;
      const cells = copied(e.clipboardData);
      if (cells.length === 0 || (cells.length === 1 && (cells[0]?.length ?? 0) < 2)) return;
      e.preventDefault();
      batch.paste(at.line, spread(cells, fields, at.column));
    };
    window.addEventListener("keydown", pressed, true);
    window.addEventListener("paste", pasted, true);
    window.addEventListener("focusin", focused);
    return () => {
      window.removeEventListener("keydown", pressed, true);
      window.removeEventListener("paste", pasted, true);
      window.removeEventListener("focusin", focused);
    };
  }, []);
}

/** Whether Tab would leave what is the same. */
function lastOfSame(target: HTMLElement): boolean {
  const all = [...document.querySelectorAll(".same input, .same textarea, .same select")].filter(
    (each) => each.getAttribute("tabindex") !== "-1",
  );
  return all.at(-1) === target;
}
