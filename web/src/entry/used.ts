import { timeOf } from "../model/when";
import { mine } from "./mine";

/** When a person last was at a door, in this browser, and how many entries were saved there that day. */
export interface Used {
  at: number;
  saved: number;
}

const place = (door: string) => mine("used") + door;

const sameDay = (one: number, other: number) =>
  new Date(one).toDateString() === new Date(other).toDateString();

export function lastUsed(door: string): Used | undefined {
  const kept = localStorage.getItem(place(door));
  return kept ? JSON.parse(kept) : undefined;
}

/** Somebody is at a door, and saved so many entries more. */
export function used(door: string, saved: number, now = Date.now()) {
  const before = lastUsed(door);
  const today = before && sameDay(before.at, now) ? before.saved : 0;
  localStorage.setItem(place(door), JSON.stringify({ at: now, saved: today + saved }));
}

/** When that was, as people say it, and how many were saved: *today 09:41 · 14 saved*. */
export function usedInWords({ at, saved }: Used, now = Date.now()): string {
  const days = Math.round(
    (new Date(now).setHours(0, 0, 0, 0) - new Date(at).setHours(0, 0, 0, 0)) / 86_400_000,
  );
  const date = new Date(at);
  if (days <= 0) {
    return `today ${timeOf(date)}${saved > 0 ? ` · ${saved.toLocaleString("en")} saved` : ""}`;
  }
  if (days === 1) return "yesterday";
  return days < 7
    ? date.toLocaleDateString("en-GB", { weekday: "long" })
    : date.toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });
}
