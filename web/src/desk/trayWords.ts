import type { DeskForm as Form, Schemas } from "../api/client";
import type { Kept } from "../entry/sitting";
import { fieldsOf } from "../model/items";
import { shown } from "../model/shown";

/** The two lines by which a keyer knows an entry again: its first two values, then the next ones. */
export function inTwoLines(form: Form, values: Record<string, unknown>): { title: string; detail: string } {
  const shownFirst = (form.tray ?? []).flatMap((column) =>
    fieldsOf(form).filter((field) => field.column === column),
  );
  const filled = (shownFirst.length > 0 ? shownFirst : fieldsOf(form))
    .map((field) => {
      const stored = shown(values[field.column], field.widget, form);
      const value = stored && field.widget === "picture" ? "a picture" : stored;
      return (
        value &&
        (field.widget === "yesno" ? `${field.label} ${value}` : field.unit ? `${value} ${field.unit}` : value)
      );
    })
    .filter(Boolean);
  return { title: filled.slice(0, 2).join(" · "), detail: filled.slice(2, 6).join(", ") };
}

/** What a save did beside its own row, in words. */
export const didElsewhere = ({ what, table, row }: Schemas["ElsewhereJson"]) =>
  ({
    added: `added to ${table}, row ${row}`,
    changed: `changed in ${table}, row ${row}`,
    removed: `removed from ${table}, row ${row}`,
    sent: "a message goes out",
  })[what];

/** How long ago, in the fewest words. */
export function ago(at: number, now: number): string {
  const minutes = Math.floor((now - at) / 60_000);
  if (minutes < 1) return "just now";
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

/** Entries an hour since the first of the sitting, once there is enough to tell from. */
export function hourly(kept: Kept[], now: number): number | undefined {
  const first = kept.at(-1)?.at;
  if (first === undefined || kept.length < 5 || now - first < 60_000) return undefined;
  return Math.round((kept.length / (now - first)) * 3_600_000);
}
