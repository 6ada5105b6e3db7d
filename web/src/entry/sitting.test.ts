import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { assessment, browser, field, form, server, stop } from "../testing/given";
import type { Outgoing } from "./outbox";
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
  sitting.giveWay();
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
    expect(entries(sent)).toEqual([]);
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

  it("says what is in the way of an entry where it stands, and leaves the cursor alone", async () => {
    answers(() => stopped());
    begin();
    key("QB-03");
    const stands = sitting.send();
    const at = focused.length;
    await pass(50);
    expect(await stands).toBe(false);
    expect(typed().site).toBe("QB-03");
    expect(sitting.entry.snapshot().stops.map((each) => each.field)).toEqual(["ph"]);
    expect(sitting.snapshot().question?.answer).toBeUndefined();
    expect(focused.length).toBe(at);
    expect(sitting.back()).toBe(true);
    expect(focused.at(-1)).toBe("ph");
    expect(sitting.outbox.snapshot()).toEqual([]);
    expect(typed().site).toBe("QB-03");
  });

  it("gives the next key to the next entry, whatever stopped the one before", async () => {
    answers((site) => (site === "bad" ? stopped() : saved()));
    begin();
    key("bad");
    sitting.save();
    await pass(50);
    key("good");
    expect(typed()).toEqual({ site: "good" });
    expect(sitting.snapshot().question).toBeUndefined();
    sitting.save();
    await pass(5_000);
    expect(typed().site ?? "").toBe("");
    expect(sitting.outbox.snapshot().map(({ state, typed }) => [state, typed.site])).toEqual([
      ["stopped", "bad"],
    ]);
    sitting.back();
    await pass();
    expect(typed().site).toBe("bad");
    expect(sitting.outbox.snapshot()).toEqual([]);
  });

  it("saves what is asked about so, from the form and from the tray, each once", async () => {
    const sent = server(({ path, body }) =>
      path.endsWith("/assess")
        ? { status: 200, body: assessment() }
        : (body.answers as Record<string, string>).range === "yes"
          ? saved()
          : stopped("ask"),
    );
    begin();
    key("QB-03");
    sitting.save();
    await pass(50);
    sitting.sayYes();
    await pass(50);
    expect(sitting.snapshot().question).toBeUndefined();
    expect(sitting.snapshot().kept).toHaveLength(1);
    for (const site of ["a", "b", "c"]) {
      key(site);
      sitting.save();
      await pass(50);
    }
    key("d");
    sitting.sayYes();
    await pass(50);
    expect(sitting.snapshot().kept).toHaveLength(2);
    sitting.sayYesToAll();
    await pass(50);
    expect(sitting.snapshot().kept).toHaveLength(4);
    expect(typed()).toEqual({ site: "d" });
    expect(sitting.outbox.snapshot()).toEqual([]);
    expect(new Set(sent.filter((each) => each.key).map((each) => each.key)).size).toBe(4);
  });

  it("leaves alone what another window of the browser has seen to", async () => {
    const sent = answers(() => stopped("ask"));
    begin();
    key("QB-03");
    sitting.save();
    await pass(50);
    const [asked] = sitting.outbox.snapshot();
    for (const name of Object.keys(localStorage))
      if (name.endsWith(asked?.key ?? "-")) localStorage.removeItem(name);
    key("QB-04");
    sitting.sayYes();
    await sitting.reopen(asked as Outgoing);
    await pass(50);
    expect(entries(sent)).toEqual(["QB-03"]);
    expect(typed().site ?? "").toBe("");
    expect(sitting.outbox.snapshot().map((each) => each.typed.site)).toEqual(["QB-04"]);
  });

  it("is told at once where a number has letters, without asking anybody", async () => {
    const sent = answers(saved);
    begin();
    sitting.entry.known = {
      ph: {
        listed: false,
        numbered: false,
        unreadable: { readable: "[0-9]|^\\P{L}*$", words: "“{typed}” is no number." },
      },
    };
    key("Q1");
    sitting.entry.type("ph", "many $& ");
    sitting.save();
    expect(entries(sent)).toEqual([]);
    expect(sitting.entry.snapshot().stops).toMatchObject([
      { field: "ph", code: "unreadable", message: "“many $&” is no number." },
    ]);
    key("Q2");
    expect(typed()).toMatchObject({ site: "Q2" });
    expect(typed().ph ?? "").toBe("");
    expect(sitting.outbox.snapshot()).toMatchObject([
      { state: "stopped", typed: { site: "Q1", ph: "many $& " } },
    ]);
    sitting.putAside(true);
    sitting.back();
    await pass();
    expect(focused.at(-1)).toBe("ph");
    sitting.entry.type("ph", "7.4");
    sitting.save();
    await pass();
    expect(entries(sent)).toEqual(["Q1"]);
  });

  it("knows beforehand what must be filled, and asks nobody for it", async () => {
    const wanting = { ...stop("ph", "Fill in PH."), code: "required" as const };
    const sent = server(({ path }) =>
      path.endsWith("/assess") ? { status: 200, body: assessment({ findings: [wanting] }) } : saved(),
    );
    begin();
    await pass(50);
    key("QB-03");
    sitting.save();
    expect(focused.at(-1)).toBe("ph");
    expect(sitting.snapshot().said.text).toBe("Fill in PH.");
    await pass(50);
    expect(sent.filter((each) => each.path.endsWith("/records"))).toEqual([]);
  });

  it("keeps what is cleared, and gives back what was left half typed", async () => {
    answers(saved);
    begin();
    key("cleared");
    sitting.putAside(false);
    key("left");
    sitting.putAside(true);
    expect(typed().site ?? "").toBe("");
    expect(sitting.giveBack()).toBe(true);
    expect(typed().site).toBe("left");
    await sitting.reopen(sitting.outbox.snapshot()[0] as Outgoing);
    expect(typed().site).toBe("cleared");
    expect(sitting.outbox.snapshot().map(({ typed }) => typed.site)).toEqual(["left"]);
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

  it("knows which entries of its tray were taken back and put back", async () => {
    answers(saved);
    begin();
    const counted: number[] = [];
    sitting.take({ counted: (entries) => counted.push(entries) });
    key("QB-03");
    sitting.save();
    await pass(50);
    sitting.taken(1);
    expect(sitting.snapshot().kept.map(({ taken }) => taken)).toEqual([true]);
    sitting.taken(1, { id: 1, row: 7, version: 3, values: {} });
    expect(sitting.snapshot().kept.map(({ taken, record }) => [taken, record.row])).toEqual([[false, 7]]);
    expect(counted).toEqual([1, -1, 1]);
  });
});

/** The tray has what was changed and removed, and goes on telling what the save of an entry did elsewhere. */
it("keeps a card for what was changed or removed, one for each record", async () => {
  server(() => ({ status: 200, body: assessment() }));
  begin();
  const record = (id: number, version = 1) => ({ id, row: id, version, values: { site: `v${version}` } });
  const elsewhere = [{ what: "added" as const, table: "Repairs", row: 118 }];
  sitting.keep({ ...record(1), elsewhere });
  sitting.touched(record(1, 2));
  sitting.touched(record(2, 3));
  sitting.touched(record(2, 3), true);
  expect(sitting.snapshot().kept.map(({ record, taken, older }) => ({ ...record, taken, older }))).toEqual([
    { ...record(2, 3), elsewhere: [], taken: true, older: true },
    { ...record(1, 2), elsewhere, taken: false, older: undefined },
  ]);
});
