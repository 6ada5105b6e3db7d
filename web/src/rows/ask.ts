/** Which records are asked for, and in what order, as people typed it. */
export interface Ask {
  /** A criterion by column; blank ones ask nothing. */
  where: Record<string, string>;
  /** What may be in any field; nothing when blank. */
  any: string;
  /** The order as the API spells it; the form's own when empty. */
  sort: string;
}

export const EVERYTHING: Ask = { where: {}, any: "", sort: "" };

/** Whether not every record is asked for. */
export const finding = (ask: Ask) => ask.any.trim() !== "" || criteria(ask).length > 0;

const criteria = ({ where }: Ask) => Object.entries(where).filter(([, typed]) => typed.trim() !== "");

/** The question as the API takes it. */
export function question(ask: Ask): { where?: string[]; any?: string; sort?: string } {
  return {
    where: criteria(ask).map(([column, typed]) => `${column}:${typed}`),
    any: ask.any.trim() || undefined,
    sort: ask.sort || undefined,
  };
}

/** What is asked of columns, from the API's spelling. */
export function askOf(where: string[], any: string, sort: string): Ask {
  const pairs = where.map((each) => {
    const colon = each.indexOf(":");
    return [each.slice(0, colon), each.slice(colon + 1)];
  });
  return { where: Object.fromEntries(pairs), any, sort };
}

/** One column of an order. */
export interface Level {
  column: string;
  down: boolean;
}

export const levels = (sort: string): Level[] =>
  sort
    .split(",")
    .filter((part) => part && part !== "row")
    .map((part) => ({ column: part.replace(/^-/, ""), down: part.startsWith("-") }));

export const spelled = (all: Level[]): string =>
  all.length === 0 ? "row" : all.map(({ column, down }) => (down ? "-" : "") + column).join(",");

/** The order after a press on a heading: upwards, downwards, not at all; with `more` it is added to the others. */
export function pressed(sort: string, column: string, more: boolean): string {
  const all = levels(sort);
  const at = all.find((level) => level.column === column);
  const next = !at ? { column, down: false } : at.down ? undefined : { column, down: true };
  if (!more) return spelled(next ? [next] : []);
  if (!at) return spelled([...all, { column, down: false }]);
  return spelled(all.flatMap((level) => (level === at ? (next ? [next] : []) : [level])));
}
