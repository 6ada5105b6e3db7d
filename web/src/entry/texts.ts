import type { Form, StoredRecord, SeenTable as Table } from "../api/client";
import { fieldsOf } from "../model/items";
import { shown } from "../model/shown";
import type { Typed } from "./outbox";

/** A stored record as it would be typed into the form: what its fields hold before anybody changes them. */
export function texts(form: Form, table: Table, record: StoredRecord): Typed {
  return Object.fromEntries(
    fieldsOf(form).map(({ column }) => [column, text(form, table, column, record.values[column])]),
  );
}

/** A value as it would be typed into the form. */
export function text(form: Form, table: Table, column: string, value: unknown): string {
  return typedText(value, table.columns.find((each) => each.name === column)?.type, form.decimalSign);
}

/** A value as it would be typed with that decimal sign; dates are the same in every order of days. */
export const typedText = (value: unknown, type: string | undefined, decimalSign: Form["decimalSign"]) =>
  shown(value, type, { dayOrder: "year-first", decimalSign });
