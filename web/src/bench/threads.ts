import type { Form, Table } from "../api/client";
import { fieldsOf } from "../form/items";

/** Eight colours that colour-blind people can tell apart, each with its own dash, in the order of the fields. */
export const THREADS = 8;

/** How each threaded column is drawn: a number from 0 to 7, by its name. */
export function threadsOf(form: Form, table: Table): Map<string, number> {
  const threads = new Map<string, number>();
  for (const { column } of fieldsOf(form)) {
    if (!threads.has(column) && table.columns.some((each) => each.name === column)) {
      threads.set(column, threads.size % THREADS);
    }
  }
  return threads;
}

/** The table's columns in the form's order, then those without a field. */
export function columnsInOrder(form: Form, table: Table) {
  const order = [...threadsOf(form, table).keys()];
  const place = (name: string) => (order.includes(name) ? order.indexOf(name) : order.length);
  return [...table.columns].sort((a, b) => place(a.name ?? "") - place(b.name ?? ""));
}
