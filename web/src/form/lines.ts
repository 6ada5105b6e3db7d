import type { FormField } from "../api/client";

/** The fields of a section broken into lines of the 12-track grid, in tab order. */
export function lines(fields: FormField[]): FormField[][] {
  const all: FormField[][] = [];
  let used = 12;
  for (const field of fields) {
    if (used + field.width > 12) {
      all.push([]);
      used = 0;
    }
    all.at(-1)?.push(field);
    used += field.width;
  }
  return all;
}
