import type { FormField, Ruled } from "../api/client";
import { type At, takes } from "./at";
import type { GridModel } from "./model";

interface Cells {
  model: GridModel;
  fields: FormField[];
  ruled: Ruled;
  move: (to: At) => void;
}

/** The next cell that takes keys, on that way from there; past the last of a line, the first of the next. */
export function beside({ model, fields, ruled }: Cells, { line, column }: At, way: 1 | -1): At | undefined {
  const { lines, read } = model.grid();
  const open = (l: number, c: number) => {
    const field = fields[c];
    const each = lines[l];
    return !!field && !!each && !each.gone && takes(field, ruled, read.get(each.id)?.fields[field.column]);
  };
  for (let l = line, c = column + way; l >= 0 && l < lines.length; ) {
    if (c < 0 || c >= fields.length) {
      l += way;
      c = way === 1 ? 0 : fields.length - 1;
    } else if (open(l, c)) return { line: l, column: c };
    else c += way;
  }
  return undefined;
}

export const firstOf = (cells: Cells, line: number) => beside(cells, { line, column: -1 }, 1);

/**
 * A key in a cell of lines; says whether it was for them.
 *
 * @param before what stood in the cell when one came to it
 */
export function cellKey(e: KeyboardEvent, at: At, before: string, cells: Cells): boolean {
  const { model, fields, move } = cells;
  const column = fields[at.column]?.column ?? "";
  const go = (to: At | undefined) => {
    if (to) move(to);
    return !!to;
  };
  const listed = (e.target as HTMLElement).getAttribute("aria-expanded") === "true";
  const choosing = listed && document.querySelector('[role="option"][data-focused]');
  if (e.key === "Tab") return go(beside(cells, at, e.shiftKey ? -1 : 1));
  if (e.key === "Enter" && !e.ctrlKey && !choosing && !e.isComposing)
    return go(firstOf(cells, at.line + 1)) || go(firstOf(cells, at.line));
  if (e.altKey && e.key === "ArrowUp") {
    model.asAbove(at.line, e.shiftKey ? fields.map((field) => field.column) : [column]);
    return true;
  }
  if (e.key === "Delete" && e.ctrlKey) {
    model.takeOut(at.line);
    move({ line: Math.min(at.line, model.grid().lines.length - 1), column: at.column });
    return true;
  }
  if (e.altKey && e.key.toLowerCase() === "i") {
    model.insert(at.line);
    return go(firstOf(cells, at.line));
  }
  if (e.altKey || e.ctrlKey || e.metaKey || listed) return false;
  if (e.key === "ArrowUp" && at.line > 0) return go({ line: at.line - 1, column: at.column });
  if (e.key === "ArrowDown" && at.line + 1 < model.grid().lines.length)
    return go({ line: at.line + 1, column: at.column });
  if (e.key === "Escape") {
    model.type(at.line, column, before);
    return true;
  }
  return false;
}
