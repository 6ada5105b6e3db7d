import type { ColumnType } from "../api/client";

/** What pages know of a column type. */
interface Facts {
  /** What it is called. */
  words: string;
  /** Whether its values are texts as typed or chosen, numbers, or lie on days. */
  sort: "words" | "number" | "dated" | "other";
  /** Whether a least and a greatest value can be set. */
  ranged: boolean;
}

/** Every column type, in the order in which they are offered. */
export const FACTS: Record<ColumnType, Facts> = {
  text: { words: "text", sort: "words", ranged: false },
  longtext: { words: "long text", sort: "words", ranged: false },
  whole: { words: "whole number", sort: "number", ranged: true },
  decimal: { words: "decimal number", sort: "number", ranged: true },
  yesno: { words: "yes or no", sort: "other", ranged: false },
  date: { words: "date", sort: "dated", ranged: true },
  time: { words: "time", sort: "other", ranged: true },
  datetime: { words: "date and time", sort: "dated", ranged: true },
  choice: { words: "one of a list", sort: "words", ranged: false },
  picture: { words: "picture", sort: "other", ranged: false },
  link: { words: "link", sort: "other", ranged: false },
};

/** Every column type in words, in that order. */
export const TYPES = Object.fromEntries(
  Object.entries(FACTS).map(([type, { words }]) => [type, words]),
) as Record<ColumnType, string>;
