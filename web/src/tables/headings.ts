/**
 * The headings in what was typed or pasted: one a line, or a row copied from a spreadsheet (parted by tabs), or a list
 * parted by semicolons or commas.
 */
export function headings(typed: string): string[] {
  const text = typed.trim();
  const parts = /[\n\t]/.test(text) ? text.split(/[\n\t]+/) : text.split(text.includes(";") ? ";" : ",");
  return parts
    .map((part) =>
      part
        .trim()
        .replace(/^"(.*)"$/, "$1")
        .trim(),
    )
    .filter((part) => part !== "");
}
