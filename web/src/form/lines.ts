import type { FormItem } from "../api/client";
import { widthOf } from "../model/items";

/** The items of a section broken into lines of the 12-track grid, in tab order. */
export function lines(items: FormItem[]): FormItem[][] {
  const all: FormItem[][] = [];
  let used = 12;
  for (const item of items) {
    if (used + widthOf(item) > 12) {
      all.push([]);
      used = 0;
    }
    all.at(-1)?.push(item);
    used += widthOf(item);
  }
  return all;
}
