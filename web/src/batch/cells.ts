import Papa from "papaparse";
import type { FormField } from "../api/client";
import type { Typed } from "../entry/outbox";

/** Cells as they were copied somewhere: of the first table in what was copied, else of its text, tabs between cells. */
export function copied(data: DataTransfer): string[][] {
  const table = new DOMParser()
    .parseFromString(data.getData("text/html"), "text/html")
    .querySelector("table");
  return table ? laidOut(table) : parted(data.getData("text/plain"));
}

/** The cells of a table, each in its own column: one that spans several has its text in the first of them. */
export function laidOut(table: HTMLTableElement): string[][] {
  const rows: string[][] = [...table.rows].map(() => []);
  [...table.rows].forEach((row, at) => {
    let column = 0;
    for (const cell of row.cells) {
      while (rows[at]?.[column] !== undefined) column++;
      for (let down = 0; down < Math.max(1, cell.rowSpan); down++)
        for (let across = 0; across < Math.max(1, cell.colSpan); across++) {
          const below = rows[at + down];
          if (below) below[column + across] = down + across === 0 ? clean(lined(cell)) : "";
        }
    }
  });
  return rows.map((row) => Array.from(row, (cell) => cell ?? ""));
}

const BLOCKS = /^(P|DIV|LI|H\d|TR|PRE|BLOCKQUOTE)$/;

/** The text of an element with its breaks and paragraphs as lines. */
function lined(element: Node): string {
  let text = "";
  for (const node of element.childNodes) {
    if (node.nodeName === "BR") text += "\n";
    else if (BLOCKS.test(node.nodeName))
      text += `${text && !text.endsWith("\n") ? "\n" : ""}${lined(node)}\n`;
    else if (node.nodeType === 3) text += (node.nodeValue ?? "").replace(/\s+/g, " ");
    else text += lined(node);
  }
  return text;
}

/** A cell in quotes to its end, or any other up to a tab or the end of its line. */
const CELL = /"((?:[^"]|"")*)"(?=\t|\r?\n|$)|[^\t\r\n]*/y;

/** The cells of a text: a line each row, tabs between cells, quoted where a cell holds either. A single quote is a sign like any. */
export function parted(text: string): string[][] {
  const all = text.replace(/(\r?\n)+$/, "");
  if (all === "") return [];
  const rows: string[][] = [[]];
  let at = 0;
  for (;;) {
    CELL.lastIndex = at;
    const [whole = "", quoted] = CELL.exec(all) ?? [];
    rows.at(-1)?.push(clean(quoted === undefined ? whole : quoted.replaceAll('""', '"')));
    at += whole.length;
    if (at >= all.length) return rows;
    if (all[at] !== "\t") rows.push([]);
    at += all.startsWith("\r\n", at) ? 2 : 1;
  }
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

/** A heading as it is compared first. */
const strict = (text: string) => text.normalize("NFC").trim().replace(/\s+/g, " ").toLowerCase();

/** The same without accents and without what parts words: signs such as those of A+ and m² stay. */
const loose = (text: string) =>
  strict(text)
    .normalize("NFD")
    .replace(/(\p{Script=Latin})\p{M}+/gu, "$1")
    .replace(/[\s_.:()*]|(?<=[\p{L}\p{N}])-(?=[\p{L}\p{N}])/gu, "");

/** The one field of that heading; none where two could be meant. */
function headedBy(cell: string, fields: FormField[]): FormField | undefined {
  for (const fold of [strict, loose]) {
    const wanted = fold(cell);
    const found =
      wanted === "" ? [] : fields.filter(({ label, column }) => [fold(label), fold(column)].includes(wanted));
    if (found.length > 0) return found.length === 1 ? found[0] : undefined;
  }
  return undefined;
}

/**
 * Spreads copied cells over columns: by their heading line when the first line is one, else from that column on to the
 * right. Columns that cannot be typed into are passed by.
 */
export function spread(cells: string[][], fields: FormField[], from: number): Spread {
  const [first = [], ...rest] = cells;
  const headings = first.map((cell) => headedBy(cell, fields));
  const known = headings.filter(Boolean).length;
  const filled = first.filter(Boolean).length;
  const headed = cells.length > 1 && known > 0 && (known === filled || (known > 1 && known * 2 > filled));
  // Of two headings alike the first is followed.
  const columns = headed
    ? headings.map((field, at) => (headings.indexOf(field) === at ? field : undefined))
    : fields.slice(from);
  const rows = headed ? rest : cells;
  const lines = rows.map((row) =>
    Object.fromEntries(
      row.flatMap((cell, at) => {
        const field = columns[at];
        return field ? [[field.column, cell]] : [];
      }),
    ),
  );
  return { lines, leftOut: headed ? unheaded(first, columns, rows) : beyond(cells, columns.length) };
}

const named = (cells: string[]) => cells.map((cell) => `“${cell}”`).join(", ");

/** What a heading line leaves without a field. */
function unheaded(first: string[], columns: (FormField | undefined)[], rows: string[][]): string {
  const out = first.filter((cell, at) => cell && !columns[at]);
  const again = out.filter((cell) => first.filter((other) => strict(other) === strict(cell)).length > 1);
  const unknown = out.filter((cell) => !again.includes(cell));
  const bare = rows.flatMap((row) => row.filter((cell, at) => cell && !first[at])).length;
  return [
    unknown.length > 0 && `No field is called ${named(unknown)}; what stood there was left out.`,
    again.length > 0 && `${named(again)} stands there twice; the first was taken.`,
    bare > 0 &&
      `${bare === 1 ? "One cell" : `${bare} cells`} without a heading ${bare === 1 ? "was" : "were"} left out.`,
  ]
    .filter(Boolean)
    .join(" ");
}

function beyond(cells: string[][], fields: number): string {
  const out = Math.max(0, ...cells.map((row) => row.length - fields));
  return out > 0
    ? `${out === 1 ? "One cell" : `${out} cells`} to the right of the last field ${out === 1 ? "was" : "were"} left out.`
    : "";
}
