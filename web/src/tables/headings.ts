import type { Schemas } from "../api/client";

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

/** Whether a text of lines is rows with their headings: parted alike in every line, and more than one line. */
export function ofRows(text: string): boolean {
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== "");
  if (lines.length < 2) return false;
  return ["\t", ";", ","].some((sign) => {
    const cells = lines.map((line) => line.split(sign).length);
    return (cells[0] ?? 1) > 1 && cells.every((count) => count === cells[0]);
  });
}

/** A line that one typed, and whether what its heading tells was refused. */
export interface Line {
  text: string;
  plain: boolean;
}

/** How the server reads a line: why it is unclear, and what its heading tells. */
type Told = Pick<Schemas["LineJson"], "unclear" | "proposal">;

/** A line with what its heading tells, unless that was refused. */
export const said = ({ text, plain }: Line, told: Told | undefined) =>
  told?.proposal && !plain ? `${text}, ${told.proposal.say}` : text;

/** All lines with what their headings tell, read first however fast they were typed; nothing where one is unclear. */
export async function asSaid(
  lines: Line[],
  read: (asked: string[]) => Promise<Told[]>,
): Promise<string[] | undefined> {
  const told = await read(lines.map(({ text }) => text));
  const whole = lines.map((line, at) => said(line, told[at]));
  const again = await read(whole);
  return again.some(({ unclear }) => unclear) ? undefined : whole;
}
