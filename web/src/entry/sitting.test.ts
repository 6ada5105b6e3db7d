import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { assessment, browser, field, form, server, stop } from "../testing/given";
import { Sitting } from "./sitting";

const FORM = form([field("site"), field("ph")]);
let sitting: Sitting;
let end: () => void;
let focused: (string | undefined)[];
let followed: number;
let row: number;

const saved = () => ({ status: 201, body: { id: ++row, row, version: 1, values: {} } });
const stopped = (severity = "stop") => ({
  status: 422,
  body: { detail: "No.", findings: [{ ...stop("ph"), severity }] },
});
type Came = ReturnType<typeof saved> | ReturnType<typeof stopped> | undefined;

/** Each entry is answered by this; what is asked while one types has nothing to say. */
const answers = (came: (site: string) => Came) =>
  server(({ path, body }) =>
    path.endsWith("/assess")
      ? { status: 200, body: assessment() }
      : came((body.values as { site: string }).site),
  );
const entries = (sent: ReturnType<typeof server>) =>
  sent
    .filter((each) => each.path.endsWith("/records"))
    .map((each) => (each.body.values as { site: string }).site);
const pass = (millis = 0) => vi.advanceTimersByTimeAsync(millis);
const key = (site: string) => {
  sitting.keyed();
  sitting.entry.type("site", site);
};
const typed = () => sitting.entry.snapshot().typed;

beforeEach(() => {
  vi.useFakeTimers();
  browser();
  row = 0;
  focused = [];
  followed = 0;
});
afterEach(() => {
  end();
  vi.useRealTimers();
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

function begin() {
  sitting = new Sitting("samples");
  sitting.follow(FORM, 1);
  sitting.take({
    draw: (change) => change(),
    focus: (column) => focused.push(column),
    follow: () => {
      followed++;
    },
  });
  end = sitting.begin();
}

describe("a sitting", () => {
  it("begins with the cursor in the first field", () => {
    answers(saved);
    begin();
    expect(focused).toEqual(["site"]);
  });

  it("has nothing to save before anything is typed, and says so", () => {
    const sent = answers(saved);
    begin();
    sitting.save();
    expect(sent).toEqual([]);
    expect(sitting.snapshot().said).toMatchObject({ tone: "stop" });
  });

  it("turns to the next entry when a save is answered, and keeps the entry in the tray", async () => {
    answers(saved);
    begin();
    key("QB-03");
    sitting.save();
    expect(typed().site).toBe("QB-03");
    await pass(50);
    expect(typed().site ?? "").toBe("");
    expect(focused.at(-1)).toBe("site");
    expect(sitting.snapshot().kept.map(({ record }) => record.row)).toEqual([1]);
    expect(sitting.snapshot().said.text).toContain("Saved in row 1");
    expect(followed).toBe(1);
  });

  it("leaves what is typed after a save alone when that is answered late", async () => {
    answers(saved);
    begin();
    key("QB-03");
    sitting.save();
    sitting.turn();
    key("QB-04");
    await pass(50);
    expect(typed().site).toBe("QB-04");
    expect(sitting.snapshot().kept).toHaveLength(1);
  });

  it("saves once however often save is pressed", async () => {
    const sent = answers(saved);
    begin();
    key("QB-03");
    sitting.save();
    sitting.save();
    await pass(50);
    expect(entries(sent)).toEqual(["QB-03"]);
  });

  it("shows a stop at its field, with all as it was typed", async () => {
    answers(() => stopped());
    begin();
    key("QB-03");
    const stands = sitting.send();
    await pass(50);
    expect(await stands).toBe(false);
    expect(typed().site).toBe("QB-03");
    expect(sitting.entry.snapshot().stops.map((each) => each.field)).toEqual(["ph"]);
    expect(focused.at(-1)).toBe("ph");
    expect(sitting.outbox.snapshot()).toEqual([]);
  });

  it("brings an earlier entry that was stopped back only when the form is free and the keys are still", async () => {
    answers((site) => (site === "bad" ? stopped() : saved()));
    begin();
    key("bad");
    sitting.save();
    sitting.turn();
    key("good");
    await pass(3_000);
    expect(typed().site).toBe("good");
    expect(sitting.outbox.snapshot().map(({ state }) => state)).toEqual(["stopped"]);
    sitting.save();
    sitting.keyed();
    await pass(500);
    expect(typed().site ?? "").toBe("");
    await pass(1_000);
    expect(typed().site).toBe("bad");
    expect(sitting.outbox.snapshot()).toEqual([]);
  });

  it("puts the question where all that is in the way asks, and sends again when it is answered", async () => {
    let yes = false;
    const sent = answers(() => (yes ? saved() : stopped("ask")));
    begin();
    key("QB-03");
    sitting.save();
    await pass(50);
    const { question } = sitting.snapshot();
    expect(question?.findings).toHaveLength(1);
    yes = true;
    sitting.asked();
    question?.answered();
    await pass(50);
    expect(entries(sent)).toEqual(["QB-03", "QB-03"]);
    expect(sitting.snapshot().question).toBeUndefined();
    expect(sitting.snapshot().kept).toHaveLength(1);
  });

  it("goes on without a connection: the entry is kept, the form is free, and it is sent once it can be", async () => {
    let connected = false;
    const sent = answers(() => (connected ? saved() : undefined));
    begin();
    key("QB-03");
    const stands = sitting.send();
    await pass(50);
    expect(await stands).toBe(true);
    expect(typed().site ?? "").toBe("");
    expect(sitting.snapshot().said.tone).toBe("wait");
    connected = true;
    await pass(20_000);
    expect(sitting.snapshot().kept).toHaveLength(1);
    expect(new Set(sent.filter((each) => each.key).map((each) => each.key)).size).toBe(1);
  });

  it("opens a stopped entry from the tray only over a blank one", async () => {
    answers(() => stopped());
    begin();
    key("bad");
    sitting.save();
    sitting.turn();
    key("other");
    await pass(50);
    const [waiting] = sitting.outbox.snapshot();
    if (waiting) sitting.reopen(waiting);
    expect(typed().site).toBe("other");
    expect(sitting.snapshot().said.text).toContain("first");
    sitting.turn();
    if (waiting) sitting.reopen(waiting);
    expect(typed().site).toBe("bad");
  });

  it("knows which entries of its tray were taken back and put back", async () => {
    answers(saved);
    begin();
    key("QB-03");
    sitting.save();
    await pass(50);
    sitting.taken(1);
    expect(sitting.snapshot().kept.map(({ taken }) => taken)).toEqual([true]);
    sitting.taken(1, { id: 1, row: 7, version: 3, values: {} });
    expect(sitting.snapshot().kept.map(({ taken, record }) => [taken, record.row])).toEqual([[false, 7]]);
  });
});
