import type { Form, Table } from "../api/client";
import { fieldsOf } from "../model/items";

/** Eight colours that colour-blind people can tell apart, each with its own dash, in the order of the fields. */
export const THREADS = 8;

/** How each threaded column is drawn: a number from 0 to 7, by its name. */
export function threadsOf(form: Form, table: Table): Map<string, number> {
  const threads = new Map<string, number>();
  const there = new Set(table.columns.map((column) => column.name));
  for (const { column } of fieldsOf(form)) {
    if (!threads.has(column) && there.has(column)) {
      threads.set(column, threads.size % THREADS);
    }
  }
  return threads;
}

/** Lights a field, its thread and its column, while either end is pointed at or has the focus. */
export function light(field: string, column: string, on: boolean) {
  const ends = [
    `[data-piece="${CSS.escape(field)}"]`,
    `[data-thread="${CSS.escape(field)}"]`,
    `[data-column="${CSS.escape(column)}"]`,
  ];
  for (const end of document.querySelectorAll(ends.join(","))) end.classList.toggle("lit", on);
}

/** The table's columns in the order of these names, then those without a field. */
export function columnsInOrder(order: string[], table: Table) {
  const places = new Map(order.map((name, at) => [name, at]));
  const place = (name = "") => places.get(name) ?? order.length;
  return [...table.columns].sort((a, b) => place(a.name) - place(b.name));
}
