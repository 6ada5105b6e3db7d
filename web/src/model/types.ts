import type { ColumnType } from "../api/client";

/** Every column type in words, in the order in which they are offered. */
export const TYPES: Record<ColumnType, string> = {
  text: "text",
  longtext: "long text",
  whole: "whole number",
  decimal: "decimal number",
  yesno: "yes or no",
  date: "date",
  time: "time",
  datetime: "date and time",
  choice: "one of a list",
  picture: "picture",
  link: "link",
};
