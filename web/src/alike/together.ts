import type { StoredRecord } from "../api/client";
import { shown } from "../model/shown";

const text = (record: StoredRecord | undefined, column: string) => shown(record?.values[column]);

/** The record that says most; of those that say as much, the one in the lowest row. */
export function fullest(records: StoredRecord[]): number {
  const filled = (record: StoredRecord) =>
    Object.values(record.values).filter((value) => value !== null).length;
  const best = records.toSorted((one, other) => filled(other) - filled(one) || one.row - other.row)[0];
  return best ? records.indexOf(best) : 0;
}

/** Of which record each column's value is taken at first: of the one that stays, or of the first that says anything. */
export function taken(columns: string[], records: StoredRecord[], stays: number): Record<string, number> {
  return Object.fromEntries(
    columns.map((column) => {
      const says = (at: number) => text(records[at], column) !== "";
      const first = records.findIndex((_, at) => says(at));
      return [column, says(stays) || first < 0 ? stays : first];
    }),
  );
}

/** The columns in which not all of the records hold the same. */
export const apart = (columns: string[], records: StoredRecord[]): Set<string> =>
  new Set(columns.filter((column) => new Set(records.map((record) => text(record, column))).size > 1));

/** What is sent: by column, the identity of the record whose value is taken, where it is not the one that stays. */
export const from = (chosen: Record<string, number>, records: StoredRecord[], stays: number) =>
  Object.fromEntries(
    Object.entries(chosen)
      .filter(([, at]) => at !== stays)
      .map(([column, at]) => [column, records[at]?.id ?? 0]),
  );

/** The rows of records, as people list them: *5*, *5 and 54*, *5, 54 and 60*. */
export function rowsOf(records: StoredRecord[]): string {
  const rows = records.map(({ row }) => String(row));
  return rows.length > 1 ? `${rows.slice(0, -1).join(", ")} and ${rows.at(-1)}` : (rows[0] ?? "");
}
