import type { ColumnType } from "../api/client";

/** What pages know of a column type. */
interface Facts {
  /** What it is called. */
  words: string;
  /** Whether its values are texts as typed or chosen, numbers, or lie on days. */
  sort: "words" | "number" | "dated" | "other";
  /** Whether a least and a greatest value can be set. */
  ranged: boolean;
  /** How wide its column is where rows are listed, in pixels. */
  width: number;
}

/** Every column type, in the order in which they are offered. */
export const FACTS: Record<ColumnType, Facts> = {
  text: { words: "text", sort: "words", ranged: false, width: 150 },
  longtext: { words: "long text", sort: "words", ranged: false, width: 320 },
  whole: { words: "whole number", sort: "number", ranged: true, width: 90 },
  decimal: { words: "decimal number", sort: "number", ranged: true, width: 150 },
  yesno: { words: "yes or no", sort: "other", ranged: false, width: 70 },
  date: { words: "date", sort: "dated", ranged: true, width: 110 },
  time: { words: "time", sort: "other", ranged: true, width: 84 },
  datetime: { words: "date and time", sort: "dated", ranged: true, width: 170 },
  choice: { words: "one of a list", sort: "words", ranged: false, width: 150 },
  picture: { words: "picture", sort: "other", ranged: false, width: 150 },
  link: { words: "link", sort: "other", ranged: false, width: 150 },
};

/** Every column type in words, in that order. */
export const TYPES = Object.fromEntries(
  Object.entries(FACTS).map(([type, { words }]) => [type, words]),
) as Record<ColumnType, string>;
