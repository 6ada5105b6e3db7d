import type { Column } from "../api/client";

/** The columns in which records can be compared. */
export const comparable = (columns: Column[]): Column[] =>
  columns.filter(({ type, shownOnly }) => type !== "picture" && !shownOnly);

/** How far a look is, as a whole number up to 99 while it runs. */
export const percent = ({ done, whole }: { done: number; whole: number }): number =>
  whole > 0 ? Math.min(99, Math.floor((100 * done) / whole)) : 0;
