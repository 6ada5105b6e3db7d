/** A stored value as it is shown in rows: as it is stored, yes and no in words, times without seconds that are nought. */
export function shown(value: unknown, type?: string): string {
  if (value === null || value === undefined) return "";
  if (value === true) return "yes";
  if (value === false) return "no";
  // A link is called by its record's own words.
  const text = isLink(value) ? value.shown : String(value);
  return type === "time" || type === "datetime" ? text.replace("T", " ").replace(/:00$/, "") : text;
}

/** A link as answers have it. */
export interface Link {
  id: number;
  row: number;
  shown: string;
}

export const isLink = (value: unknown): value is Link =>
  typeof value === "object" && value !== null && "shown" in value;
