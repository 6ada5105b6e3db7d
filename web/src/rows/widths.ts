import { mine } from "../entry/mine";

/** A character of the rows' font, and what is around a text, in px. */
const CHARACTER = 8.7;
const AROUND = 24;
const LEAST = 48;
/** As wide as a column gets by itself, and by hand. */
const WIDEST = 340;
const MOST = 1_200;

const clamp = (width: number) => Math.round(Math.max(LEAST, Math.min(MOST, width)));

/** The width, in px, at which a column shows its title and these values whole, as far as they are not too long. */
export function fitting(title: string, values: string[]): number {
  const longest = values.reduce((most, value) => Math.max(most, [...value].length), 0);
  return clamp(
    Math.min(WIDEST, Math.max([...title].length * 7.8 + AROUND + 14, longest * CHARACTER + AROUND)),
  );
}

const place = (table: string) => mine("widths") + table;

/** How wide a person has drawn the columns of a table, in this browser. */
export function drawn(table: string): Record<string, number> {
  return JSON.parse(localStorage.getItem(place(table)) ?? "{}");
}

/** A column is drawn that wide from now on, or, without a width, as wide as what is in it. */
export function draw(table: string, column: string, width: number | undefined) {
  const { [column]: _, ...others } = drawn(table);
  const kept = width === undefined ? others : { ...others, [column]: clamp(width) };
  localStorage.setItem(place(table), JSON.stringify(kept));
}
