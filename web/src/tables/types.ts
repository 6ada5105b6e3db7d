/** Every column type in words, in the order in which they are offered. */
export const TYPES: Record<string, string> = {
  text: "text",
  longtext: "long text",
  whole: "whole number",
  decimal: "decimal number",
  yesno: "yes or no",
  date: "date",
  time: "time",
  datetime: "date and time",
  picture: "picture",
  link: "link",
};

export function typeInWords(type: string | undefined): string {
  return type === "choice" ? "one of a list" : (TYPES[type ?? ""] ?? type ?? "");
}
