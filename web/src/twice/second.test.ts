import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { assessment, browser, field, form, server } from "../testing/given";
import { Second, type TwiceState } from "./second";

const RULES: TwiceState = {
  way: "at once",
  paper: ["number"],
  compared: ["taxon", "count"],
  waiting: 1,
  settling: 0,
  keys: true,
  settles: false,
};
const PAPER = { record: 7, values: { number: "P-1" }, words: "Number P-1" };

/** A paper in hand, and what its fields and its end are answered with. */
async function given(answer: (path: string) => unknown, at?: string) {
  const sent = server(({ path }) => {
    if (path.endsWith("/assess")) return { status: 200, body: assessment() };
    if (path.endsWith("/take")) return { status: 200, body: { paper: { ...PAPER } } };
    return { status: 200, body: answer(path) };
  });
  const second = new Second("again", RULES);
  second.entry.follow(form([field("taxon"), field("count")]), 1);
  const focused: (string | undefined)[] = [];
  const pressed: string[] = [];
  const hands = {
    focus: (column?: string) => focused.push(column),
    at: () => at,
    press: (keys: string[]) => pressed.push(...keys),
  };
  second.take(hands);
  await second.next();
  return { second, sent, focused, pressed };
}

beforeEach(() => {
  browser();
});
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

it("clears a field that differs, says so, and brings the cursor back where nothing else is typed", async () => {
  const { second, focused } = await given(() => ({ said: "differs" }), "count");
  second.type("taxon", "mayfli");
  await second.leave("taxon");
  expect(second.entry.snapshot().typed.taxon).toBe("");
  expect(second.snapshot().differs.get("taxon")).toBe("mayfli");
  expect(focused.at(-1)).toBe("taxon");
  expect(second.findings([])[0]?.message).toContain("“mayfli” differs from the first keying");
});

it("leaves the cursor where somebody types on, and forgets what differs once it is keyed again", async () => {
  let type = () => {};
  const { second, focused } = await given(() => {
    type();
    return { said: "differs" };
  }, "count");
  type = () => second.type("count", "1");
  second.type("taxon", "mayfli");
  await second.leave("taxon");
  expect(focused.at(-1)).toBeUndefined();
  expect(second.entry.snapshot().typed.count).toBe("1");
  second.type("taxon", "m");
  expect(second.snapshot().differs.size).toBe(0);
});

it("sends which keying holds, until something else is typed", async () => {
  const both = { first: "7", second: "9", firstWords: "7", secondWords: "9" };
  const { second, sent } = await given((path) =>
    path.includes("/fields/") ? { said: "choose", both } : { standing: "settled", open: {} },
  );
  second.type("count", "9");
  await second.leave("count");
  expect(second.snapshot().choose?.both).toEqual(both);
  await second.finish();
  expect(sent.filter(({ path }) => path.endsWith("/{record}"))).toHaveLength(0);
  second.choice("second");
  expect(second.chosen("count")).toBe("second");
  second.type("count", "8");
  expect(second.chosen("count")).toBeUndefined();
});

it("is told late of a field that is another one by then, and says nothing of it", async () => {
  let late: (answer: unknown) => void = () => {};
  const answered = new Promise((resolve) => {
    late = resolve;
  });
  const { second } = await given(() => answered);
  second.type("taxon", "mayfli");
  const left = second.leave("taxon");
  second.type("taxon", "mayfly");
  late({ said: "differs" });
  await left;
  expect(second.entry.snapshot().typed.taxon).toBe("mayfly");
  expect(second.snapshot().differs.size).toBe(0);
});

it("sends its end again until it is answered, and keeps what is keyed till then", async () => {
  vi.useFakeTimers();
  let connected = false;
  const kept = browser();
  const { second, sent, pressed } = await given(() => {
    if (!connected) throw new Error("gone");
    return { standing: "settled", open: {} };
  });
  second.type("taxon", "mayfly");
  const finishing = second.finish();
  await vi.advanceTimersByTimeAsync(1_000);
  expect(second.snapshot()).toMatchObject({ paper: PAPER, busy: true, done: 0 });
  expect([...kept.values()].some((each) => each.includes("mayfly"))).toBe(true);
  second.hold("x");
  connected = true;
  await vi.advanceTimersByTimeAsync(5_000);
  await finishing;
  expect(second.snapshot()).toMatchObject({ busy: false, done: 1 });
  const ends = sent.filter(({ path }) => path.endsWith("/{record}"));
  expect(new Set(ends.map(({ body }) => JSON.stringify(body))).size).toBe(1);
  expect(pressed).toEqual(["x"]);
});

it("takes no further paper when its page was left while the end was on its way", async () => {
  vi.useFakeTimers();
  let connected = false;
  const { second, sent } = await given(() => {
    if (!connected) throw new Error("gone");
    return { standing: "settled", open: {} };
  });
  const leave = second.stay();
  second.type("taxon", "mayfly");
  const finishing = second.finish();
  await vi.advanceTimersByTimeAsync(1_000);
  leave();
  connected = true;
  await vi.advanceTimersByTimeAsync(5_000);
  await finishing;
  expect(second.snapshot().done).toBe(1);
  expect(sent.filter(({ path }) => path.endsWith("/take"))).toHaveLength(1);
});

it("has what was keyed back with the paper that it was keyed for", async () => {
  const { second } = await given(() => ({ said: "alike" }));
  second.type("taxon", "mayfly");
  await second.next();
  expect(second.entry.snapshot().typed.taxon).toBe("mayfly");
});

it("presses what was keyed while a paper was ended in the next, be that ended or not", async () => {
  let ended = { standing: "settled", open: {} } as unknown;
  const { second, pressed } = await given(() => ended);
  expect(second.hold("x")).toBe(false);
  const finishing = second.finish();
  expect([..."ab"].every((key) => second.hold(key))).toBe(true);
  await finishing;
  expect(pressed.join("")).toBe("ab");
  ended = { standing: "waiting", open: { taxon: { said: "differs" } } };
  const staying = second.finish();
  second.hold("c");
  await staying;
  expect(pressed.join("")).toBe("abc");
});

it("says nothing of a field of a paper that is ended when its answer comes", async () => {
  let late: (came: { status: number; body: unknown }) => void = () => {};
  server(({ path }) => {
    if (path.endsWith("/assess")) return { status: 200, body: assessment() };
    if (path.endsWith("/take")) return { status: 200, body: { paper: { ...PAPER } } };
    if (path.endsWith("/{record}")) return { status: 200, body: { standing: "settled", open: {} } };
    return new Promise((resolve) => {
      late = resolve;
    });
  });
  const second = new Second("again", RULES);
  second.entry.follow(form([field("taxon"), field("count")]), 1);
  await second.next();
  second.type("taxon", "mayfly");
  const left = second.leave("taxon");
  await second.finish();
  late({ status: 409, body: { detail: "This paper is not yours to key." } });
  await left;
  expect(second.snapshot().said.text).toBe("Number P-1 is settled.");
});

/** Keys that were pressed before the answer are the next paper's, whatever the answer is. */
it("puts a paper aside that differs when the next one is keyed already, and comes back to it", async () => {
  let left = [{ ...PAPER }, { record: 8, values: { number: "P-2" }, words: "Number P-2" }];
  const taken: unknown[] = [];
  server(({ path, body }) => {
    if (path.endsWith("/assess")) return { status: 200, body: assessment() };
    if (path.endsWith("/take")) {
      const but = body.but as number[];
      taken.push(but);
      return { status: 200, body: { paper: left.find(({ record }) => !but.includes(record)) ?? null } };
    }
    second.hold("9");
    return { status: 200, body: { standing: "waiting", open: { count: { said: "differs" } } } };
  });
  const second = new Second("again", RULES);
  second.entry.follow(form([field("taxon"), field("count")]), 1);
  const pressed: string[] = [];
  second.take({ focus: () => {}, at: () => undefined, press: (keys) => pressed.push(...keys) });
  await second.next();
  second.type("count", "7");
  await second.finish();
  expect(second.snapshot().paper?.words).toBe("Number P-2");
  expect(pressed).toEqual(["9"]);
  expect(second.entry.snapshot().typed.count ?? "").toBe("");
  expect(second.snapshot().aside.map(({ words }) => words)).toEqual(["Number P-1"]);
  second.back();
  expect(second.snapshot().paper?.words).toBe("Number P-1");
  expect(second.entry.snapshot().typed.count).toBe("7");
  expect(second.snapshot().aside.map(({ words }) => words)).toEqual(["Number P-2"]);
  // Where no other waits, it stays in hand and says what differs.
  left = left.slice(0, 1);
  await second.finish();
  expect(second.snapshot().paper?.words).toBe("Number P-1");
  expect(second.snapshot().differs.get("count")).toBe("7");
  expect(taken).toEqual([[], [7], [8, 7]]);
});
