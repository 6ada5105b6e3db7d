import type { Way } from "../model/shown";

const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

const iso = (year: number, month: number, day: number): string | undefined => {
  const date = new Date(Date.UTC(year, month - 1, day));
  const there = date.getUTCMonth() === month - 1 && date.getUTCDate() === day;
  return there && year >= 1900 && year < 2200 ? date.toISOString().slice(0, 10) : undefined;
};

/**
 * A day as people type one for a setting: `2026-08-01`, `1 Aug 2026`, `8/1` in the order of days there, of this year where none is
 * said, `t` for today. Nothing where it is none.
 */
export function dayTyped(typed: string, dayOrder: Way["dayOrder"], now: Date): string | undefined {
  const text = typed.trim().toLowerCase();
  const today = iso(now.getFullYear(), now.getMonth() + 1, now.getDate());
  if (text === "t" || text === "today") return today;
  const words = text.match(/^(\d{1,2})\.? ([a-z]{3})[a-z]*\.?(?: (\d{4}))?$/);
  if (words)
    return iso(Number(words[3] ?? now.getFullYear()), MONTHS.indexOf(words[2] ?? "") + 1, Number(words[1]));
  const parts = text.split(/[/.-]/);
  if (!parts.every((part) => /^\d+$/.test(part)) || parts.length > 3 || parts.length < 2) return undefined;
  const numbers = parts.map(Number);
  const yearFirst = (parts[0] ?? "").length === 4;
  const year = yearFirst ? numbers.shift() : numbers.length === 3 ? numbers.pop() : now.getFullYear();
  const [first = 0, second = 0] = numbers;
  const dayFirst = !yearFirst && dayOrder === "day-first";
  const [month, day] = dayFirst ? [second, first] : [first, second];
  const full = year !== undefined && year < 100 ? 2000 + year : (year ?? 0);
  return iso(full, month, day);
}
