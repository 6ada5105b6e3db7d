import { answered, api, type Schemas } from "../api/client";
import { Subscribable } from "../model/subscribable";

type Lookable = Schemas["LookableJson"];
type Part = Lookable["parts"][number];

/** A column, and what its records are parted by, if anything. */
export interface Pair {
  column: string;
  by?: Part;
}

/** What was found of a pair, and the records that are shown so far. */
export interface Group extends Pair {
  found: Schemas["UnusualJson"];
}

interface State {
  looking: boolean;
  /** How many pairs were looked at, and how many there are. */
  done: number;
  whole: number;
  /** Those by which something is unusual, the worst first. */
  groups: Group[];
  /** Those by which so much is that it says nothing. */
  often: Pair[];
  /** Why the look ended before it was through. */
  error?: unknown;
}

const worst = ({ found }: Group) => found.records[0]?.beyond ?? 0;

/** One column after the other, each alone first, then by each part of the others. */
export const pairsOf = ({ columns, parts }: Lookable): Pair[] => [
  ...columns.map((column): Pair => ({ column })),
  ...columns.flatMap((column) =>
    parts.filter((by) => by.column !== column).map((by): Pair => ({ column, by })),
  ),
];

const ask = (table: string, { column, by }: Pair, after?: { beyond: number; row: number }) =>
  answered(
    api.GET("/api/tables/{table}/unusual/{column}", {
      params: { path: { table, column }, query: { by: by?.column, of: by?.of, ...after } },
    }),
  );

/**
 * A look over a table for what is unusual, one pair after the other. It goes on while one is elsewhere; what comes once it was ended or
 * begun anew is let go of.
 */
export class UnusualLook extends Subscribable<State> {
  private turn = 0;

  constructor(private readonly table: string) {
    super({ looking: false, done: 0, whole: 0, groups: [], often: [] });
  }

  begin = async () => {
    const turn = ++this.turn;
    const mine = () => turn === this.turn;
    this.become({ looking: true, done: 0, whole: 0, groups: [], often: [] });
    try {
      const pairs = pairsOf(
        await answered(api.GET("/api/tables/{table}/unusual", { params: { path: { table: this.table } } })),
      );
      if (mine()) this.set({ whole: pairs.length });
      for (const pair of pairs) {
        if (!mine()) return;
        const found = await ask(this.table, pair);
        if (mine()) this.take({ ...pair, found });
      }
      if (mine()) this.set({ looking: false });
    } catch (error) {
      if (mine()) this.set({ looking: false, error });
    }
  };

  end = () => {
    this.turn++;
    this.set({ looking: false });
  };

  /** More records of a group. */
  more = async (group: Group) => {
    const last = group.found.records.at(-1);
    if (!last) return;
    try {
      const found = await ask(this.table, group, { beyond: last.beyond, row: last.record.row });
      const records = [...group.found.records, ...found.records];
      const longer = { ...group, found: { ...group.found, records, more: found.more } };
      this.set({ groups: this.state.groups.map((each) => (each === group ? longer : each)) });
    } catch (error) {
      this.set({ error });
    }
  };

  private take(group: Group) {
    const { groups, often, done } = this.state;
    this.set({
      done: done + 1,
      often: group.found.often ? [...often, group] : often,
      groups:
        group.found.records.length > 0
          ? [...groups, group].sort((one, other) => worst(other) - worst(one))
          : groups,
    });
  }
}
