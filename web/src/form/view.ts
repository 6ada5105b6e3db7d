import type { ReactNode } from "react";
import type { Assessment, Choice, Finding, FormButton, Ruled } from "../api/client";
import type { FormLines } from "../entry/sheet";

/** What a form shows of an entry, and whom it tells. */
export interface EntryView {
  /** Whether it asks for records instead of being one. */
  asking?: boolean;
  typed: Record<string, string>;
  /** What the changed fields of a stored record held before. */
  was: Record<string, string>;
  values: Record<string, unknown>;
  readings: Record<string, string>;
  findings: Finding[];
  /** How rules let each field stand, by column. */
  fields?: Assessment["fields"];
  /** What the rules make of each field, whatever is typed, by column. */
  ruled?: Ruled | undefined;
  /** What shown values show, by item. */
  shown?: Record<string, string>;
  /** Where several records match a fill, those to choose from. */
  offers?: Assessment["offers"];
  chosen?: Record<string, number>;
  choose?: (fill: string, record: number) => void;
  /** Those of a column's choice list that begin so. */
  list?: (column: string, typed: string) => Promise<Choice[]>;
  /** What can be done with the record that a column links to, in words, and doing it. */
  links?: (column: string) => string | undefined;
  follow?: (column: string) => void;
  /** Draws what the entry is nearly the same as, at that field. */
  likes?: (column: string) => ReactNode;
  /** Draws where an unusual value lies, under what is said of it. */
  plot?: (finding: Finding) => ReactNode;
  /** Draws the lines of the record. */
  lines?: (item: FormLines) => ReactNode;
  type: (column: string, text: string) => void;
  leave: (column: string) => void;
}

/** What buttons on the form do. */
export interface Presses {
  can: (button: FormButton) => boolean;
  press: (button: FormButton) => void;
}
