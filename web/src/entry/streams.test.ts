import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { assessment, browser, field, form, server, stop } from "../testing/given";
import { Sitting } from "./sitting";

const COLUMNS = ["site", "flow", "ph"];
const FORM = form(COLUMNS.map((column) => field(column)));
const STREAMS = 2_000;
const LEISURE = 20_000;

/** Numbers that look random, the same for the same seed. */
function random(seed: number) {
  let state = seed * 2_654_435_761 + 1;
  return (below: number) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
}

/** What a keyer presses: letters, Tab, Enter, and a paste now and then, for some entries head-down. */
function stream(next: (below: number) => number): string[] {
  const keys: string[] = [];
  for (let entry = 1 + next(8); entry > 0; entry--) {
    for (let at = 0; at < COLUMNS.length; at++) {
      // A flow that is left out is asked about, and a pH of x is refused.
      const text = at === 1 ? (next(3) === 0 ? "" : "dry") : at === 2 && next(5) === 0 ? "x" : `${next(90)}`;
      keys.push(...text, ...(at < COLUMNS.length - 1 ? ["Tab"] : []));
    }
    keys.push("Enter");
  }
  return keys;
}

/** The end of a stream: what is saved, what waits, and what stands in the form. */
async function keyed(
  keys: string[],
  pause: () => number,
  come: () => { after: number; lost: boolean },
  known = false,
) {
  browser();
  const stored = new Map<string, Record<string, string>>();
  const came = vi.fn(async ({ path, body, key }: Parameters<Parameters<typeof server>[0]>[0]) => {
    if (path.endsWith("/assess")) return { status: 200, body: assessment() };
    const { after, lost } = come();
    await new Promise((resolve) => setTimeout(resolve, after));
    const typed = body.values as Record<string, string>;
    const bad = typed.ph === "x" ? "stop" : typed.flow?.trim() ? "" : "ask";
    if (!bad && key) stored.set(key, typed);
    if (lost) return undefined;
    return bad
      ? { status: 422, body: { detail: "No.", findings: [{ ...stop("flow"), severity: bad }] } }
      : { status: 201, body: { id: stored.size, row: stored.size, version: 1, values: typed } };
  });
  server(came);
  const sitting = new Sitting("samples");
  let at = "site";
  let over = true;
  sitting.follow(FORM, 1);
  const unreadable = { readable: "[0-9]|^\\P{L}*$", words: "No." };
  if (known) sitting.entry.known = { ph: { listed: false, numbered: false, unreadable } };
  sitting.take({
    focus: (column, all) => {
      at = column ?? at;
      over = all;
    },
  });
  const end = sitting.begin();
  for (const key of keys) {
    sitting.giveWay();
    if (key === "Tab") {
      at = COLUMNS[COLUMNS.indexOf(at) + 1] ?? at;
      over = true;
    } else if (key === "Enter") sitting.save();
    else {
      sitting.entry.type(at, (over ? "" : (sitting.entry.snapshot().typed[at] ?? "")) + key);
      over = false;
    }
    await vi.advanceTimersByTimeAsync(pause());
  }
  await vi.advanceTimersByTimeAsync(LEISURE * 10);
  // What was refused stands there until the next key.
  sitting.giveWay();
  const { typed, pending } = sitting.entry.snapshot();
  end();
  const said = (all: Record<string, string>) => COLUMNS.map((column) => all[column] ?? "").join("|");
  return {
    saved: [...stored.values()].map(said),
    waiting: sitting.outbox.snapshot().map((each) => `${each.state} ${said(each.typed)}`),
    form: said(pending ? {} : typed),
  };
}

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

describe("a stream of keys", () => {
  it("ends in the entries that it gives at leisure, however fast it is and however late its answers come", async () => {
    for (let seed = 1; seed <= STREAMS; seed++) {
      const next = random(seed);
      const keys = stream(next);
      const leisurely = await keyed(
        keys,
        () => LEISURE,
        () => ({ after: 5, lost: false }),
      );
      const fast = await keyed(
        keys,
        () => (next(6) === 0 ? next(4_000) : next(80)),
        () => ({ after: next(3_000), lost: next(7) === 0 }),
        // What is told at once ends as where it is told late.
        seed % 2 === 0,
      );
      expect(fast, `${seed}: ${keys.join(" ")}`).toEqual(leisurely);
    }
  }, 240_000);
});
