import type { Typed } from "../entry/outbox";

/** Where one was when one went to see, or to make, what a link leads to. */
export interface Visit {
  /** The door one came from, and what its form is called. */
  from: string;
  title: string;
  /** The stored record that was open; a new entry when there was none. */
  record: number | null;
  typed: Typed;
  /** The link, and what its field is called. */
  column: string;
  label: string;
  /** The door one went to. */
  to: string;
  /** The record that is to be seen there; none where a new one is to be made. */
  open: number | null;
  /** What was made there. */
  made?: { id: number; words: string };
}

const KEY = "weft.visits";

const all = (): Visit[] => JSON.parse(sessionStorage.getItem(KEY) ?? "[]") as Visit[];
const keep = (visits: Visit[]) => sessionStorage.setItem(KEY, JSON.stringify(visits));

/** Sets out; one may go on from there to another. What was typed is kept through a reload. */
export const setOut = (visit: Visit) => keep([...all(), visit]);

/** The visit that brought one to that door, if one did. */
export const broughtTo = (door: string): Visit | undefined => {
  const last = all().at(-1);
  return last?.to === door ? last : undefined;
};

/** The visit is over: says so with what was made, if anything was. */
export const comeBack = (made?: Visit["made"]) => {
  const visits = all();
  const last = visits.at(-1);
  if (last && made) keep([...visits.slice(0, -1), { ...last, made }]);
};

/** The visit that went out from that door, which is over now that one is back. */
export const backAt = (door: string): Visit | undefined => {
  const visits = all();
  const last = visits.at(-1);
  if (last?.from !== door) return undefined;
  keep(visits.slice(0, -1));
  return last;
};
