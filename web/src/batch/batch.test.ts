import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { BatchSaved } from "../api/client";
import type { Typed } from "../entry/outbox";
import { browser, server, stop } from "../testing/given";
import { Batch, inRows } from "./batch";

let kept: Map<string, string>;
const PLACE = "lines of counts";
const open = () => new Batch("counts", PLACE, false);
const settle = (millis = 0) => vi.advanceTimersByTimeAsync(millis);
const READ = { status: 200, body: { lines: [], values: {}, readings: {}, fields: {}, findings: [] } };
const saved = (lines: number[], left: number[] = []) => ({
  status: 201,
  body: {
    rows: lines.map((line) => ({ line, id: line, row: 100 + line, version: 1 })),
    left: left.map((line) => ({ line, findings: [{ ...stop("count"), line }] })),
  },
});
/** Answers what reads with nothing, and what saves with that. */
const answering = (save: () => { status: number; body: object } | undefined) =>
  server((request) => (request.path.endsWith("/batches") ? save() : READ));
const typed = (batch: Batch) => batch.snapshot().lines.map((line) => line.typed.taxon ?? "");

function key(batch: Batch, ...taxa: string[]) {
  taxa.forEach((taxon, at) => {
    batch.type(at, "taxon", taxon);
  });
}

beforeEach(() => {
  vi.useFakeTimers();
  kept = browser();
});
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

describe("lines", () => {
  it("always end with a blank one, where the next is keyed", () => {
    answering(() => undefined);
    const batch = open();
    expect(typed(batch)).toEqual([""]);
    key(batch, "a", "b");
    expect(typed(batch)).toEqual(["a", "b", ""]);
    batch.insert(1);
    expect(typed(batch)).toEqual(["a", "", "b", ""]);
    batch.asAbove(1, ["taxon"]);
    batch.takeOut(0);
    expect(typed(batch)).toEqual(["a", "b", ""]);
    batch.takeOut(2);
    expect(typed(batch)).toEqual(["a", "b", ""]);
  });

  it("are there again after a reload, with what is the same", () => {
    answering(() => undefined);
    const batch = open();
    batch.typeSame("sample", "S-1");
    key(batch, "a", "b");
    const again = open();
    expect(typed(again)).toEqual(["a", "b", ""]);
    expect(again.snapshot().same).toEqual({ sample: "S-1" });
    again.clear();
    again.typeSame("sample", "");
    expect(kept.size).toBe(0);
  });

  it("are read together once the keys pause, and only as they stand then", async () => {
    const sent = answering(() => undefined);
    const batch = open();
    key(batch, "a");
    await settle(40);
    key(batch, "ab");
    await settle(200);
    const asked = sent.filter(({ path }) => path.endsWith("/batches/assess"));
    expect(asked.map(({ body }) => body.lines)).toEqual([[{ values: { taxon: "ab" } }, { values: {} }]]);
    expect(batch.snapshot().checking).toBe(false);
  });

  it("are read anew when others write to the table, unless there is nothing to read", async () => {
    const sent = answering(() => undefined);
    const batch = open();
    batch.again();
    await settle(200);
    expect(sent).toEqual([]);
    key(batch, "a");
    await settle(200);
    batch.again();
    batch.again();
    await settle(200);
    expect(sent.filter(({ path }) => path.endsWith("/batches/assess"))).toHaveLength(2);
  });

  it("are saved as one and make room for the next sheet; what is the same stays", async () => {
    answering(() => saved([1, 2]));
    const batch = open();
    const told: [BatchSaved["rows"], Typed[]][] = [];
    batch.saved = ({ rows }, lines) => told.push([rows, lines]);
    batch.typeSame("sample", "S-1");
    key(batch, "a", "b");
    batch.save();
    await settle();
    expect(typed(batch)).toEqual([""]);
    expect(batch.snapshot().same).toEqual({ sample: "S-1" });
    expect(batch.snapshot().said).toEqual({ text: "Saved 2 lines in rows 101 to 102", tone: "ok" });
    expect(told).toEqual([[saved([1, 2]).body.rows, [{ taxon: "a" }, { taxon: "b" }]]]);
  });

  it("are sent once: without an answer again under the same key, also after a reload", async () => {
    let connected = false;
    const sent = answering(() => (connected ? saved([1]) : undefined));
    const saves = () => sent.filter(({ path }) => path.endsWith("/batches"));
    const batch = open();
    key(batch, "a");
    batch.save();
    await settle(1_200);
    expect(batch.snapshot().sending).toBe("waiting");
    const again = open();
    connected = true;
    again.begin();
    await settle(100);
    expect(typed(again)).toEqual([""]);
    expect(saves().length).toBeGreaterThan(2);
    expect(new Set(saves().map((each) => each.key)).size).toBe(1);
  });

  it("are sent as they were when more is keyed meanwhile, also after a reload, and that stays to be saved", async () => {
    let connected = false;
    const sent = answering(() => (connected ? saved([1, 2]) : undefined));
    const batch = open();
    batch.begin();
    key(batch, "a", "b");
    batch.save();
    await settle(600);
    batch.type(2, "taxon", "c");
    batch.end();
    const reopened = open();
    reopened.begin();
    connected = true;
    await settle(10_000);
    const saves = sent.filter(({ path }) => path.endsWith("/batches"));
    expect(new Set(saves.map(({ key, body }) => JSON.stringify([key, body]))).size).toBe(1);
    expect(typed(reopened)).toEqual(["c", ""]);
    expect(kept.get(PLACE)).not.toContain("sent");
  });

  it("keep what was typed over one that was on its way, and say that it is saved already", async () => {
    let connected = false;
    answering(() => (connected ? saved([1, 2]) : undefined));
    const batch = open();
    key(batch, "a", "b");
    batch.save();
    await settle(600);
    batch.type(1, "taxon", "bb");
    connected = true;
    await settle(10_000);
    expect(typed(batch)).toEqual(["bb", ""]);
    const [line] = batch.snapshot().lines;
    expect(batch.snapshot().stops.get(line?.id ?? 0)?.[0]?.message).toContain("was saved in row 102");
    expect(batch.snapshot().said).toEqual({
      text: "Saved 2 lines in rows 101 to 102; 1 line typed over meanwhile stays.",
      tone: "wait",
    });
  });

  it("stay as they were keyed when one is stopped, and the first in the way is shown", async () => {
    answering(() => ({
      status: 422,
      body: { detail: "No line was saved: line 2 is in the way.", findings: [{ ...stop("count"), line: 2 }] },
    }));
    const batch = open();
    const shown: unknown[] = [];
    batch.shows = (line, column) => shown.push([line, column]);
    key(batch, "a", "b");
    batch.save();
    await settle();
    expect(typed(batch)).toEqual(["a", "b", ""]);
    expect(shown).toEqual([[1, "count"]]);
    const second = batch.snapshot().lines[1];
    expect(batch.snapshot().stops.get(second?.id ?? 0)).toHaveLength(1);
    batch.type(1, "taxon", "c");
    expect(batch.snapshot().stops.size).toBe(0);
  });

  it("are asked about once, and answered for all of them", async () => {
    const ask = { ...stop("count"), severity: "ask", rule: "rare", line: 1 };
    let answered = false;
    const sent = answering(() => (answered ? saved([1]) : { status: 422, body: { findings: [ask] } }));
    const batch = open();
    key(batch, "a");
    batch.save();
    await settle();
    expect(batch.snapshot().question).toEqual([ask]);
    answered = true;
    batch.save({ rare: "yes" });
    await settle();
    expect(sent.findLast(({ path }) => path.endsWith("/batches"))?.body.answers).toEqual({ rare: "yes" });
    expect(batch.empty).toBe(true);
  });

  it("that do not pass stay, where the door keeps those that do", async () => {
    answering(() => saved([1, 3], [2]));
    const batch = new Batch("counts", PLACE, true);
    key(batch, "a", "b", "c");
    batch.save();
    await settle();
    expect(typed(batch)).toEqual(["b", ""]);
    expect(batch.snapshot().said.text).toBe(
      "Saved 2 lines in rows 101, 103; 1 line stayed, to be put right.",
    );
    expect([...batch.snapshot().stops.values()][0]).toHaveLength(1);
  });

  it("that stayed have the cursor, unless one keys on, and are not pasted over", async () => {
    let type = () => {};
    answering(() => {
      type();
      return saved([1, 3], [2]);
    });
    const batch = new Batch("counts", PLACE, true);
    const shown: unknown[] = [];
    batch.shows = (...at) => shown.push(at);
    key(batch, "a", "b", "c");
    batch.save();
    await settle();
    expect(shown).toEqual([[0, "count"]]);
    batch.paste(0, { lines: [{ taxon: "x" }, { taxon: "y" }], leftOut: "" });
    expect(typed(batch)).toEqual(["x", "y", "b", ""]);
    expect(batch.snapshot().stops.has(batch.snapshot().lines[2]?.id ?? 0)).toBe(true);
    type = () => batch.type(3, "taxon", "next");
    batch.save();
    await settle();
    expect(typed(batch)).toEqual(["y", "next", ""]);
    expect(shown).toHaveLength(1);
  });

  it("that were pasted can be given up while they are read", async () => {
    answering(() => undefined);
    const batch = open();
    key(batch, "a");
    await settle(200);
    batch.paste(1, { lines: [{ taxon: "x" }, { taxon: "y" }], leftOut: "" });
    expect(typed(batch)).toEqual(["a", "x", "y", ""]);
    batch.giveUp();
    expect(typed(batch)).toEqual(["a", ""]);
  });
});

it("rows are told as a block where they are one", () => {
  expect([[7], [7, 8, 9], [7, 9], [1, 2, 4, 5, 7, 8, 10]].map(inRows)).toEqual([
    "row 7",
    "rows 7 to 9",
    "rows 7, 9",
    "7 rows from 1 to 10",
  ]);
});
