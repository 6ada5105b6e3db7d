import type { Door } from "../api/client";
import { lastUsed, type Used } from "../entry/used";

/** A door with what people call it, and when this person was there last. */
export interface Listed {
  door: Door;
  title: string;
  used: Used | undefined;
}

/** So many stand apart as those one was at last. */
const LATEST = 5;

/** What a door is called: the one for everything as its form. */
export const titleOf = (door: Door) => (door.id === door.form ? door.formTitle : door.title);

/** The doors in the order in which one looks for them: those one was at last, the latest first, and the others by title. */
export function inOrder(doors: Door[]): { last: Listed[]; all: Listed[] } {
  const listed = doors.map((door) => ({ door, title: titleOf(door), used: lastUsed(door.id) }));
  const last = listed
    .filter(({ used }) => used)
    .sort((a, b) => (b.used?.at ?? 0) - (a.used?.at ?? 0))
    .slice(0, LATEST);
  const all = listed.filter((each) => !last.includes(each)).sort((a, b) => a.title.localeCompare(b.title));
  return { last, all };
}

/** Those in which each of the words typed begins a word of the title, or else stands anywhere in it, the form's title or the table's name. */
export function found(listed: Listed[], typed: string): Listed[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const begins = ({ title }: Listed) =>
    words.every((word) =>
      title
        .toLowerCase()
        .split(/[\s,]+/)
        .some((each) => each.startsWith(word)),
    );
  const has = ({ title, door }: Listed) =>
    words.every((word) => `${title} ${door.formTitle} ${door.table}`.toLowerCase().includes(word));
  return [...listed.filter(begins), ...listed.filter((each) => !begins(each) && has(each))];
}
