import { grouped } from "../model/counted";
import { dayOf, timeOf } from "../model/when";
import { mine } from "./mine";

/** When a person last was at a door, in this browser, and how many entries were saved there that day. */
export interface Used {
  at: number;
  saved: number;
}

const DAY = 86_400_000;

const place = (door: string) => mine("used") + door;

const sameDay = (one: number, other: number) => dayOf(new Date(one)) === dayOf(new Date(other));

export function lastUsed(door: string): Used | undefined {
  const kept = localStorage.getItem(place(door));
  return kept ? JSON.parse(kept) : undefined;
}

/** Somebody is at a door, and saved so many entries more, or took so many back. */
export function used(door: string, saved: number, now = Date.now()) {
  const before = lastUsed(door);
  const today = before && sameDay(before.at, now) ? before.saved : 0;
  localStorage.setItem(place(door), JSON.stringify({ at: now, saved: Math.max(0, today + saved) }));
}

/** When that was, as people say it, and how many were saved: *today 09:41 · 14 saved*. */
export function usedInWords({ at, saved }: Used, now = Date.now()): string {
  const date = new Date(at);
  if (sameDay(at, now)) {
    return `today ${timeOf(date)}${saved > 0 ? ` · ${grouped(saved)} saved` : ""}`;
  }
  if (sameDay(at, now - DAY)) return "yesterday";
  return now - at < 6 * DAY ? date.toLocaleDateString("en-GB", { weekday: "long" }) : dayOf(date);
}
