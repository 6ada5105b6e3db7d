import type { Form, StoredRecord, Table } from "../api/client";
import { fieldsOf } from "../form/items";
import { shown } from "../rows/shown";
import type { Typed } from "./outbox";

/** A stored record as it would be typed into the form: what its fields hold before anybody changes them. */
export function texts(form: Form, table: Table, record: StoredRecord): Typed {
  const types = new Map(table.columns.map((column) => [column.name, column.type]));
  return Object.fromEntries(
    fieldsOf(form).map(({ column }) => {
      const type = types.get(column);
      const text = shown(record.values[column], type);
      return [column, type === "decimal" && form.decimalSign === "comma" ? text.replace(".", ",") : text];
    }),
  );
}
