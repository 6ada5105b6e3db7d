import Papa from "papaparse";
import type { FormField } from "../api/client";
import type { Typed } from "../entry/outbox";

/** Cells as they were copied somewhere: of the first table in what was copied, else of its text, tabs between cells. */
export function copied(data: DataTransfer): string[][] {
  const table = new DOMParser()
    .parseFromString(data.getData("text/html"), "text/html")
    .querySelector("table");
  if (table) return [...table.rows].map((row) => [...row.cells].map((cell) => clean(cell.textContent ?? "")));
  return parted(data.getData("text/plain"));
}

/** The cells of a text: a line each row, tabs between cells, quoted where a cell holds either. */
export function parted(text: string): string[][] {
  if (text === "") return [];
  return Papa.parse<string[]>(text.replace(/(\r?\n)+$/, ""), { delimiter: "\t" }).data.map((row) =>
    row.map(clean),
  );
}

const clean = (cell: string) => cell.replace(/\u00a0/g, " ").trim();

/** Lines as text that other programs take: a heading line, then a line each, tabs between cells. */
export const spelled = (fields: FormField[], lines: Typed[]): string =>
  Papa.unparse(
    [
      fields.map((field) => field.label),
      ...lines.map((line) => fields.map((field) => line[field.column] ?? "")),
    ],
    {
      delimiter: "\t",
      newline: "\n",
    },
  );

/** Cells that are to be typed: what goes into each line, and what has no field to go into. */
export interface Spread {
  lines: Typed[];
  /** In a sentence; empty when every cell has its field. */
  leftOut: string;
}

const folded = (text: string) =>
  text
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]/g, "");

/**
 * Spreads copied cells over columns: by their heading line when the first line is one, else from that column on to the
 * right. Columns that cannot be typed into are passed by.
 */
export function spread(cells: string[][], fields: FormField[], from: number): Spread {
  const named = (cell: string) =>
    fields.find(
      (field) => folded(cell) !== "" && [folded(field.label), folded(field.column)].includes(folded(cell)),
    );
  const [first = [], ...rest] = cells;
  const headings = first.map(named);
  const known = headings.filter(Boolean).length;
  const headed = cells.length > 1 && known > 0 && known * 2 >= first.filter(Boolean).length;
  const columns = headed ? headings : fields.slice(from);
  const lines = (headed ? rest : cells).map((row) =>
    Object.fromEntries(
      row.flatMap((cell, at) => {
        const field = columns[at];
        return field ? [[field.column, cell]] : [];
      }),
    ),
  );
  const unknown = headed ? first.filter((cell, at) => cell && !headings[at]) : [];
  const beyond = headed ? 0 : Math.max(0, ...cells.map((row) => row.length - columns.length));
  return {
    lines,
    leftOut:
      unknown.length > 0
        ? `No field is called ${unknown.map((cell) => `“${cell}”`).join(", ")}; what stood there was left out.`
        : beyond > 0
          ? `${beyond === 1 ? "One cell" : `${beyond} cells`} to the right of the last field ${beyond === 1 ? "was" : "were"} left out.`
          : "",
  };
}
