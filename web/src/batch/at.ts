import type { FormField, Ruled } from "../api/client";

/** Where one is in the grid: a line from 0, and a column by its place from 0. */
export interface At {
  line: number;
  column: number;
}

/** Whether a cell takes keys, as its field stands in that line now. */
export function takes(
  field: FormField,
  ruled: Ruled,
  state: { locked: boolean; origin: string } | undefined,
): boolean {
  return (
    (!field.use || field.use === "open") &&
    !ruled[field.column]?.numbered &&
    !state?.locked &&
    state?.origin !== "calculated"
  );
}
