import type { Choice, Finding, LineAssessed } from "../api/client";
import type { Typed } from "../entry/outbox";
import type { Spread } from "./cells";

/** What is read of a line; its row is told only where it is not stored yet. */
export type LineRead = Pick<LineAssessed, "values" | "readings" | "fields" | "findings"> & {
  row?: number | null;
};

/** A line as it is typed. Its id stays while lines come and go above it. */
export interface GridLine {
  id: number;
  typed: Typed;
  gone?: boolean;
}

export interface GridState {
  lines: readonly GridLine[];
  /** What is to be said of each line, by its id. */
  read: ReadonlyMap<number, LineRead>;
  /** What the last save found, by the id of the line. */
  stops: ReadonlyMap<number, Finding[]>;
}

/** Lines under columns, whoever holds them: what the grid draws, and what its keys do. */
export interface GridModel {
  grid: () => GridState;
  type: (at: number, column: string, text: string) => void;
  /** Those of a column's choice list that begin with what is typed in that line. */
  list: (at: number | undefined, column: string, typed: string) => Promise<Choice[]>;
  /** The cell, or several of the line, as in the line above. */
  asAbove: (at: number, columns: string[]) => void;
  takeOut: (at: number) => void;
  /** A blank line in front of that one. */
  insert: (at: number) => void;
  /** Cells that were copied elsewhere, from that line on. */
  paste: (at: number, cells: Spread) => void;
}

const NONE: Finding[] = [];

/** What is said of a line: what a save found, else what was read of it. */
export const findingsOf = ({ stops, read }: GridState, line: GridLine): Finding[] =>
  stops.get(line.id) ?? read.get(line.id)?.findings ?? NONE;
