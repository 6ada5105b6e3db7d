/** A stored value as it is shown in rows: as it is stored, yes and no in words, times without seconds that are nought. */
export function shown(value: unknown, type?: string): string {
  if (value === null || value === undefined) return "";
  if (value === true) return "yes";
  if (value === false) return "no";
  const text = String(value);
  return type === "time" || type === "datetime" ? text.replace("T", " ").replace(/:00$/, "") : text;
}
