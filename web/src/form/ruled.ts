import type { Form } from "../api/client";

/** Whether a column is chosen from a list of a table: its own, or the records that it is the first key of. */
export const listed = (form: Form, column: string): boolean =>
  (form.rules?.choices ?? []).some((list) => list.column === column) ||
  (form.rules?.fills ?? []).some((fill) => fill.keys[0]?.column === column);

/** Whether a column gets a running number at the save. */
export const numbered = (form: Form, column: string): boolean =>
  (form.rules?.numbers ?? []).some((numbering) => numbering.column === column);
