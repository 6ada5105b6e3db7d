import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { Table } from "../api/client";
import { browser, record, server, table } from "../testing/given";
import { EVERYTHING } from "./ask";
import { byRow, inView, KEYED, PAGE } from "./source";

const OF = { ...table({ site: "text" }), nextRow: 251, lastRow: 260 } as unknown as Table;

beforeEach(() => {
  browser();
});
afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

/** What a page of rows comes to, as whoever draws it asks for it. */
type Asked = { queryFn?: unknown; queryKey: readonly unknown[] };
const lines = ({ queryFn }: Asked) =>
  (queryFn as (of: { signal: AbortSignal }) => Promise<Map<number, unknown>>)({
    signal: new AbortController().signal,
  });

it("keeps the rows of one door apart from those of another, and from the whole table", () => {
  const keys = [byRow(OF), byRow(OF, "mine"), byRow(OF, "theirs")].map((source) =>
    JSON.stringify(source.page(2).queryKey),
  );
  expect(new Set(keys).size).toBe(3);
  const views = ["mine", "theirs"].map((door) =>
    JSON.stringify(inView(door, "samples", EVERYTHING, 9).page(0).queryKey),
  );
  expect(new Set(views).size).toBe(2);
});

it("has a place for each row, the free ones too, and for the next", () => {
  expect(byRow(OF).count).toBe(260);
  expect(byRow(OF).next).toBe(251);
  expect(byRow({ ...OF, lastRow: 0, nextRow: 1 } as Table).count).toBe(1);
});

it("asks for a page of rows by their numbers, and puts each where its number is", async () => {
  const first = PAGE + 1;
  const sent = server(() => ({
    status: 200,
    body: { records: [record(first), record(first + 4), record(2 * PAGE + 7)] },
  }));
  const found = await lines(byRow(OF, "mine").page(1));
  expect(sent[0]?.path).toBe("/api/doors/{door}/records");
  expect(sent[0]?.query).toMatchObject({ after: String(PAGE), limit: PAGE, sort: "row" });
  // What comes from beyond the page fills up the answer, and is another page's.
  expect([...found.keys()]).toEqual([first, first + 4]);
  await lines(byRow(OF).page(0));
  expect(sent[1]?.path).toBe("/api/tables/{table}/records");
});

it("numbers what is in view, and shows how far each has come with its keyings", async () => {
  server(() => ({ status: 200, body: { records: [record(40), { ...record(3), keyed: "waiting" }] } }));
  const found = await lines(inView("mine", "samples", EVERYTHING, 500).page(1));
  expect([...found.keys()]).toEqual([PAGE + 1, PAGE + 2]);
  expect(found.get(PAGE + 2)).toMatchObject({ id: 3, values: { [KEYED]: "waiting" } });
});
