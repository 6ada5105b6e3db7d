import type { Form } from "../api/client";

/** How a form writes dates and numbers. */
export type Way = Pick<Form, "dayOrder" | "decimalSign">;

/** A stored value as it is shown: yes and no in words, times without seconds that are nought, the rest in that way, or as it is stored. */
export function shown(value: unknown, type?: string, way?: Way): string {
  if (value === null || value === undefined) return "";
  if (value === true) return "yes";
  if (value === false) return "no";
  // A link is called by its record's own words.
  const text = isLink(value) ? value.shown : String(value);
  switch (type) {
    case "time":
      return minutes(text);
    case "datetime": {
      const [date = "", time = ""] = text.split("T");
      return `${day(date, way)} ${minutes(time)}`.trim();
    }
    case "date":
      return day(text, way);
    case "decimal":
    case "number":
      return way?.decimalSign === "comma" ? text.replace(".", ",") : text;
    default:
      return text;
  }
}

const minutes = (time: string) => time.replace(/:00$/, "");

/** A date in the order in which the form reads one. */
function day(iso: string, way: Way | undefined): string {
  const [, year, month, date] = iso.match(/^(\d{4})-(\d\d)-(\d\d)$/) ?? [];
  if (!year || !way || way.dayOrder === "year-first") return iso;
  const [m, d] = [Number(month), Number(date)];
  return way.dayOrder === "day-first" ? `${d}/${m}/${year}` : `${m}/${d}/${year}`;
}

/** A link as answers have it. */
export interface Link {
  id: number;
  row: number;
  shown: string;
}

export const isLink = (value: unknown): value is Link =>
  typeof value === "object" && value !== null && "shown" in value;
