import { useEffect, useRef } from "react";
import type { FormField, Ruled } from "../api/client";
import { type At, takes } from "./at";
import type { Batch } from "./batch";
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
    const open = (line: number, column: number) => {
      const { batch, fields, ruled } = latest.current;
      const field = fields[column];
      const id = batch.snapshot().lines[line]?.id ?? 0;
      return !!field && takes(field, ruled, batch.snapshot().read.get(id)?.fields[field.column]);
    };
    /** The next cell that takes keys, on that way from there; past the last of a line, the first of the next. */
    const beside = ({ line, column }: At, way: 1 | -1): At | undefined => {
      const { batch, fields } = latest.current;
      const { lines } = batch.snapshot();
      for (let l = line, c = column + way; l >= 0 && l < lines.length; ) {
        if (c < 0 || c >= fields.length) {
          l += way;
          c = way === 1 ? 0 : fields.length - 1;
        } else if (open(l, c)) return { line: l, column: c };
        else c += way;
      }
      return undefined;
    };
    const firstOf = (line: number) => beside({ line, column: -1 }, 1);
    const go = (to: At | undefined) => {
      if (!to) return false;
      latest.current.move(to);
      return true;
    };
    const focused = (e: FocusEvent) => {
      const { at, batch, fields } = latest.current;
      if ((e.target as HTMLElement).id === "cell" && at)
        before = batch.snapshot().lines[at.line]?.typed[fields[at.column]?.column ?? ""] ?? "";
    };

    /** In a cell; says whether the key was for the lines. */
    const inCell = (e: KeyboardEvent, at: At): boolean => {
      const { batch, fields, move, toSame } = latest.current;
      const { lines, checking } = batch.snapshot();
      const column = fields[at.column]?.column ?? "";
      const listed = (e.target as HTMLElement).getAttribute("aria-expanded") === "true";
      const choosing = listed && document.querySelector('[role="option"][data-focused]');
      if (e.key === "Tab") {
        if (go(beside(at, e.shiftKey ? -1 : 1))) return true;
        if (e.shiftKey) toSame();
        return e.shiftKey;
      }
      if (e.key === "Enter" && !choosing && !e.isComposing)
        return go(firstOf(at.line + 1)) || go(firstOf(at.line));
      if (e.altKey && e.key === "ArrowUp") {
        batch.asAbove(at.line, e.shiftKey ? fields.map((field) => field.column) : [column]);
        return true;
      }
      if (e.key === "Delete" && e.ctrlKey) {
        batch.takeOut(at.line);
        move({ line: Math.min(at.line, batch.snapshot().lines.length - 1), column: at.column });
        return true;
      }
      if (e.altKey && e.key.toLowerCase() === "i") {
        batch.insert(at.line);
        return go(firstOf(at.line));
      }
      if (e.altKey || e.ctrlKey || e.metaKey || listed) return false;
      if (e.key === "ArrowUp" && at.line > 0) return go({ line: at.line - 1, column: at.column });
      if (e.key === "ArrowDown" && at.line + 1 < lines.length)
        return go({ line: at.line + 1, column: at.column });
      if (e.key === "Escape") {
        if (checking && lines.length > 200) batch.giveUp();
        else batch.type(at.line, column, before);
        return true;
      }
      return false;
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
      else if (target.closest(".same") && e.key === "Enter") done = go(firstOf(0));
      else if (target.closest(".same") && e.key === "Tab" && !e.shiftKey && lastOfSame(target))
        done = go(firstOf(0));
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
