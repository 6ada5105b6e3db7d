import { queryOptions } from "@tanstack/react-query";
import { answered, api, type StoredRecord, type SeenTable as Table } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { type Ask, question } from "./ask";

/** How many lines a page of rows spans. */
export const PAGE = 100;
/** So many records of a view have a number, and can be listed by it. */
export const LISTED = 10_000;

type Lines = Map<number, StoredRecord>;

/** Where the lines of a grid come from: line n, from 1, is record n. Only the pages in view are fetched. */
export interface Source {
  /** How many lines there are. */
  count: number;
  /** The line of the next free row; none where lines are not rows. */
  next?: number;
  page: (page: number) => ReturnType<typeof pageQuery>;
}

/** How far a record has come with its keyings, shown and found by as a column is. */
export const KEYED = "_keyed";

const standing = (record: StoredRecord): StoredRecord =>
  record.keyed ? { ...record, values: { ...record.values, [KEYED]: record.keyed } } : record;

const pageQuery = (queryKey: readonly unknown[], lines: (signal: AbortSignal) => Promise<Lines>) =>
  queryOptions({ queryKey, queryFn: ({ signal }) => lines(signal), gcTime: 30_000 });

/** A table's rows in the order of their numbers, the free ones too, so that any place is found at once. */
export function byRow(table: Table, door?: string): Source {
  const next = table.nextRow ?? 1;
  return {
    count: Math.max(table.lastRow ?? 0, next),
    next,
    page: (page) =>
      pageQuery(queryKeyOf("rows", table.name, page, door ?? ""), async (signal) => {
        const query = { after: String(page * PAGE), limit: PAGE };
        const found = await answered(
          door
            ? api.GET("/api/doors/{door}/records", {
                params: { path: { door }, query: { ...query, sort: "row" } },
                signal,
              })
            : api.GET("/api/tables/{table}/records", {
                params: { path: { table: table.name }, query },
                signal,
              }),
        );
        const last = (page + 1) * PAGE;
        return new Map(
          found.records.filter((each) => each.row <= last).map((each) => [each.row, standing(each)]),
        );
      }),
  };
}

/** The records asked for through a form, in the order asked for. */
export function inView(door: string, table: string, ask: Ask, total: number): Source {
  return {
    count: Math.min(total, LISTED),
    page: (page) =>
      pageQuery(queryKeyOf("view", table, door, question(ask), page), async (signal) => {
        const query = { ...question(ask), from: page * PAGE + 1, limit: PAGE };
        const found = await answered(
          api.GET("/api/doors/{door}/records", { params: { path: { door }, query }, signal }),
        );
        return new Map(found.records.map((each, at) => [page * PAGE + at + 1, standing(each)]));
      }),
  };
}
