import { useRef, useState } from "react";
import type { Column, StoredRecord } from "../api/client";
import { useShown } from "../model/way";
import { draw, drawn, fitting } from "./widths";

/**
 * The width of each column in px: as a person drew it, else by its title and the values that were there first. They stay while one
 * scrolls, so that nothing moves under the eye.
 */
export function useWidths(table: string, columns: Column[], first: Map<number, StoredRecord> | undefined) {
  const shown = useShown();
  const [kept, setKept] = useState(() => drawn(table));
  const fits = useRef(new Map<string, { width: number; filled: boolean }>());
  const filled = !!first?.size;
  for (const { name, title, type } of columns) {
    const known = fits.current.get(name);
    if (known && (known.filled || !filled)) continue;
    const values = [...(first?.values() ?? [])].map((each) =>
      type === "picture" ? "a picture" : shown(each.values[name], type),
    );
    fits.current.set(name, { width: fitting(title, values), filled });
  }
  return {
    of: (column: string) => kept[column] ?? fits.current.get(column)?.width ?? 120,
    draw: (column: string, width: number | undefined) => {
      draw(table, column, width);
      setKept(drawn(table));
    },
  };
}
