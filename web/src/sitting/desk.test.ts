import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Place, SeenTable, StoredRecord } from "../api/client";
import { Sitting } from "../entry/sitting";
import { EVERYTHING } from "../rows/ask";
import { assessment, atDoor, browser, field, form, record, server, stop, table } from "../testing/given";
import { Asking } from "./asking";
import { Browsing } from "./browsing";
import { confirmRemoval } from "./confirmRemoval";
import { Leaving } from "./leaving";
import { Recording } from "./recording";
import { Removing } from "./removing";

const FORM = atDoor(form([field("site"), field("ph")]));
const TABLE = table({ site: "text", ph: "text" }) as unknown as SeenTable;
const MANY = 250;

type Came = { status: number; body: unknown } | undefined;
type Answer = (path: string, of: ReturnType<typeof server>[number]) => Came | Promise<Came>;

let sitting: Sitting;
let focused: (string | undefined)[];

/** A Desk whose server says nothing of what is typed, and answers all else by this. */
function given(answer: Answer) {
  const sent = server((each) =>
    each.path.endsWith("/assess") ? { status: 200, body: assessment() } : answer(each.path, each),
  );
  sitting = new Sitting("samples");
  sitting.follow(FORM, 1);
  const draw = (change: () => void) => change();
  sitting.take({ draw });
  const recording = new Recording(sitting, FORM, TABLE);
  const leaving = new Leaving(sitting, recording.save);
  const browsing = new Browsing(sitting, { leave: leaving.leave, draw }, FORM, TABLE);
  focused = [];
  const hands = { turn: draw, focus: (column: string | undefined) => focused.push(column) };
  const asking = new Asking(sitting, browsing, hands, FORM);
  const removing = new Removing(sitting, browsing, "samples");
  return { sent, recording, leaving, browsing, asking, removing };
}

const place = (there: StoredRecord | null, more: Partial<Place> = {}): Came => ({
  status: 200,
  body: {
    record: there,
    cursor: there ? `c${there.id}` : "",
    position: there?.row ?? null,
    words: `${there?.row} of 9`,
    total: { count: 9, exact: true },
    first: false,
    last: false,
    ...more,
  },
});
const shows = () => sitting.entry.snapshot().record?.id;
const typed = () => sitting.entry.snapshot().typed;
const said = () => sitting.snapshot().said;

/** An answer that comes when it is let go. */
function late() {
  let come: (came: Came) => void = () => {};
  const promise = new Promise<Came>((resolve) => {
    come = resolve;
  });
  return { promise, come: (came: Came) => come(came) };
}

beforeEach(() => {
  vi.useFakeTimers();
  browser();
});
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

describe("moving", () => {
  it("shows the record with its number, and goes on from its place", async () => {
    const { browsing, sent } = given((_, { query }) => place(record(query.to === "next" ? 4 : 3)));
    expect(await browsing.go("row:3")).toBe(true);
    expect(shows()).toBe(3);
    expect(await browsing.go("next")).toBe(true);
    expect(sent.at(-1)?.query).toMatchObject({ to: "next", cursor: "c3" });
    expect(browsing.snapshot().place?.position).toBe(4);
  });

  it("leaves what was typed meanwhile where it was typed", async () => {
    const answer = late();
    const { browsing } = given(() => answer.promise);
    const going = browsing.go("first");
    await vi.advanceTimersByTimeAsync(0);
    sitting.entry.type("site", "QB-03");
    answer.come(place(record(1)));
    expect(await going).toBe(false);
    expect(typed()).toEqual({ site: "QB-03" });
    expect(shows()).toBeUndefined();
    expect(said().text).toBe("You typed on, so nothing was moved.");
  });

  it("is one step at a time", async () => {
    const answer = late();
    const { browsing, sent } = given(() => answer.promise);
    const going = browsing.go("next");
    expect(await browsing.go("next")).toBe(false);
    answer.come(place(record(2)));
    expect(await going).toBe(true);
    expect(sent).toHaveLength(1);
  });

  it("says that there is no connection, and leaves it to whoever asks what can't be read", async () => {
    let came: Came;
    const { browsing } = given(() => came);
    expect(await browsing.go("next")).toBe(false);
    expect(said()).toEqual({ text: "No connection. Nothing was moved.", tone: "wait" });
    came = { status: 400, body: { detail: "“x” is no number." } };
    await expect(browsing.go("next")).rejects.toThrow("“x” is no number.");
    came = place(record(2));
    expect(await browsing.go("next")).toBe(true);
  });

  it("takes what others did to the record, unless something is typed over it", async () => {
    let there = record(1, { site: "QB-01" });
    const { browsing } = given(() => place(there));
    await browsing.go("first");
    there = record(1, { site: "QB-02" }, 2);
    await browsing.refresh();
    expect(typed().site).toBe("QB-02");
    expect(said().text).toBe("Row 1 was changed just now.");
    sitting.entry.type("site", "QB-09");
    there = record(1, { site: "QB-03" }, 3);
    await browsing.refresh();
    expect(typed().site).toBe("QB-09");
  });

  it("steps on from where a record stood that is out of view, and says nothing late of one that is left", async () => {
    let came: Came | Promise<Came> = place(record(1));
    const { browsing } = given(() => came);
    await browsing.go("first");
    came = place(null);
    await browsing.refresh();
    expect(browsing.snapshot().place).toMatchObject({ cursor: "c1", position: null });
    const answer = late();
    came = answer.promise;
    const refreshing = browsing.refresh();
    came = place(record(2));
    await browsing.go("next");
    answer.come(place(record(1)));
    await refreshing;
    expect(browsing.snapshot().place?.record?.id).toBe(2);
  });
});

describe("what is changed before one moves on", () => {
  const changed = async (asks: boolean) => {
    const desk = given((path) =>
      path.endsWith("/place") ? place(record(2)) : { status: 200, body: record(1, { site: "QB-09" }, 2) },
    );
    desk.leaving.follow(asks);
    sitting.entry.show(record(1, { site: "QB-01" }), { site: "QB-01" });
    sitting.entry.type("site", "QB-09");
    return { ...desk, puts: () => desk.sent.filter(({ ifMatch }) => ifMatch) };
  };

  it("is saved", async () => {
    const { browsing, puts } = await changed(false);
    expect(await browsing.go("next")).toBe(true);
    expect(puts().map(({ body, ifMatch }) => [body.values, ifMatch])).toEqual([[{ site: "QB-09" }, '"1"']]);
    expect(shows()).toBe(2);
  });

  it.each([
    ["save", 1, 2],
    ["put back", 0, 2],
    ["stay", 0, 1],
  ] as const)("is asked about, and answered with %s", async (answer, saves, shown) => {
    const { browsing, leaving, puts } = await changed(true);
    const going = browsing.go("next");
    expect(shows()).toBe(1);
    leaving.snapshot().answer?.(answer);
    expect(await going).toBe(answer !== "stay");
    expect(puts()).toHaveLength(saves);
    expect(shows()).toBe(shown);
    expect(leaving.snapshot().answer).toBeUndefined();
  });

  it("keeps one where it is when it can't be saved", async () => {
    const { browsing } = given(() => ({ status: 422, body: { detail: "No.", findings: [stop("site")] } }));
    sitting.entry.show(record(1, { site: "QB-01" }), { site: "QB-01" });
    sitting.entry.type("site", "QB-09");
    expect(await browsing.go("next")).toBe(false);
    expect(typed().site).toBe("QB-09");
    expect(sitting.entry.snapshot().stops).toHaveLength(1);
  });
});

describe("a change of a stored record", () => {
  const THEIRS = record(1, { site: "QB-02", ph: "7" }, 5);
  const begun = (came: Answer) => {
    const desk = given(came);
    sitting.entry.show(record(1, { site: "QB-01", ph: "7" }), { site: "QB-01", ph: "7" });
    sitting.entry.type("site", "QB-09");
    return desk;
  };

  it("keeps what was typed while it was saved", async () => {
    const answer = late();
    const { recording } = begun(() => answer.promise);
    const saving = recording.save();
    sitting.entry.type("ph", "8");
    answer.come({ status: 200, body: record(1, { site: "QB-09", ph: "7" }, 2) });
    expect(await saving).toBe(true);
    expect(typed()).toEqual({ site: "QB-09", ph: "8" });
    expect(sitting.entry.dirty).toBe(true);
  });

  it("is laid beside what somebody else stored meanwhile, and goes on with what is chosen", async () => {
    let came: Came = { status: 412, body: { detail: "Changed.", record: THEIRS } };
    const { recording, sent } = begun(() => came);
    expect(await recording.save()).toBe(false);
    expect(recording.snapshot().conflict).toMatchObject({
      base: { site: "QB-01", ph: "7" },
      mine: { site: "QB-09", ph: "7" },
      theirs: { site: "QB-02", ph: "7" },
    });
    came = { status: 200, body: record(1, { site: "QB-09", ph: "7" }, 6) };
    recording.settle({ site: "QB-09" });
    await vi.advanceTimersByTimeAsync(0);
    expect(sent.at(-1)?.ifMatch).toBe('"5"');
    expect(recording.snapshot().conflict).toBeUndefined();
  });

  it("is not sent where theirs is chosen", async () => {
    const { recording, sent } = begun(() => ({ status: 412, body: { detail: "", record: THEIRS } }));
    await recording.save();
    recording.settle({ site: "QB-02" });
    expect(sent.filter(({ ifMatch }) => ifMatch)).toHaveLength(1);
    expect(said().text).toBe("Row 1 stays as it was stored.");
  });

  it("is known again when only its answer was lost", async () => {
    const { recording } = begun(() => ({
      status: 412,
      body: { detail: "", record: record(1, { site: "QB-09", ph: "7" }, 2) },
    }));
    expect(await recording.save()).toBe(true);
    expect(recording.snapshot().conflict).toBeUndefined();
    expect(sitting.entry.dirty).toBe(false);
  });

  it.each([
    [undefined, "No connection. Your change stays here; save it again."],
    [404, "Row 1 was deleted meanwhile. Put it back from the removed list, then save again."],
  ])("stays typed when it is answered with %s", async (status, text) => {
    const { recording } = begun(() => (status ? { status, body: {} } : undefined));
    expect(await recording.save()).toBe(false);
    expect(said().text).toBe(text);
    expect(typed().site).toBe("QB-09");
  });

  it("asks what may be answered, and is sent again with the answer", async () => {
    let came: Came = { status: 422, body: { detail: "", findings: [{ ...stop("site"), severity: "ask" }] } };
    const { recording, sent } = begun(() => came);
    await recording.save();
    const { question } = sitting.snapshot();
    expect(question?.findings).toHaveLength(1);
    came = { status: 200, body: record(1, { site: "QB-09", ph: "7" }, 2) };
    question?.answer?.({ range: "yes" });
    await vi.advanceTimersByTimeAsync(0);
    expect(sent.at(-1)?.body.answers).toEqual({ range: "yes" });
    expect(sitting.entry.dirty).toBe(false);
  });
});

describe("the form as a question", () => {
  it("goes to the first match, and brings the last question back", async () => {
    const { asking, browsing, sent } = given(() => place(record(3)));
    asking.open();
    asking.type("site", "QB-0*");
    await asking.first();
    expect(sent.at(-1)?.query).toMatchObject({ to: "first", where: ["site:QB-0*"] });
    expect(asking.snapshot().asking).toBe(false);
    asking.leave();
    await vi.advanceTimersByTimeAsync(0);
    expect(browsing.snapshot().ask).toEqual(EVERYTHING);
    asking.open();
    expect(asking.snapshot().criteria).toEqual({});
    asking.open();
    expect(asking.snapshot().criteria).toEqual({ site: "QB-0*" });
  });

  it("stays open with what can't be read, the cursor there, and with what nothing matches", async () => {
    let came: Came = {
      status: 400,
      body: { detail: "“x” is no number.", errors: [{ where: "ph", message: "“x” is no number." }] },
    };
    const { asking } = given(() => came);
    asking.open();
    await asking.first();
    expect(said().text).toBe("Nothing is asked yet. Type what to find into any field.");
    asking.type("ph", "x");
    await asking.first();
    expect(focused.at(-1)).toBe("ph");
    expect(said()).toEqual({ text: "“x” is no number.", tone: "stop" });
    came = place(null);
    await asking.first();
    expect(said().text).toBe("No record matches.");
    expect(asking.snapshot()).toEqual({ asking: true, criteria: { ph: "x" } });
  });
});

describe("removing", () => {
  const all = Array.from({ length: MANY }, (_, n) => ({ id: n + 1, row: n + 1, version: 1, values: {} }));
  const ids = (body: Record<string, unknown>) => (body.records as { id: number }[]).map(({ id }) => id);

  it("goes by hundreds, tells how far it is, and can be given up", async () => {
    const { removing, sent } = given((_, { body }) => {
      if (sent.length === 2) removing.snapshot().progress?.stop();
      return { status: 200, body: { removed: ids(body), kept: [] } };
    });
    const told: number[] = [];
    removing.subscribe(() => told.push(removing.snapshot().progress?.done ?? -1));
    removing.ask(all);
    await confirmRemoval(removing);
    expect(sent.map(({ body }) => ids(body).length)).toEqual([100, 100]);
    expect(told).toContain(100);
    expect(said().text).toBe("200 removed. The removed list has them.");
    expect(removing.snapshot()).toEqual({ asked: [], progress: undefined, finished: 1 });
  });

  it("leaves a record that is gone, though the connection was lost by then", async () => {
    let batch = 0;
    const { removing, browsing } = given((path, { body, query }) => {
      if (path.endsWith("/place")) return place(record(query.to === "next" ? 200 : 7));
      return ++batch === 1 ? { status: 200, body: { removed: ids(body), kept: [] } } : undefined;
    });
    await browsing.go("row:7");
    removing.ask(all);
    await confirmRemoval(removing);
    expect(shows()).toBe(200);
    expect(said()).toEqual({ text: "No connection. Nothing more was removed.", tone: "wait" });
  });

  it("says what was kept, and why", async () => {
    const { removing } = given(() => ({ status: 200, body: { removed: [1], kept: [2], linked: [3] } }));
    removing.ask(all.slice(0, 3));
    await confirmRemoval(removing);
    expect(said().text).toBe("1 removed; 1 kept, since others link to it, and 1 changed meanwhile.");
  });

  it("takes an entry back by the version that was saved, and puts it back", async () => {
    let came: Came = { status: 412, body: {} };
    const { removing } = given(() => came);
    sitting.keep(record(4));
    await removing.takeBack(record(4));
    expect(said().text).toBe("Row 4 was changed since it was saved. Open it to see.");
    expect(sitting.snapshot().kept[0]?.taken).toBe(false);
    came = { status: 200, body: { sent: 0 } };
    await removing.takeBack(record(4));
    expect(sitting.snapshot().kept[0]?.taken).toBe(true);
    came = { status: 200, body: record(4, {}, 3) };
    await removing.putBack(4);
    expect(sitting.snapshot().kept[0]).toMatchObject({ taken: false, record: { version: 3 } });
  });

  it("says what went with an entry, and takes it back alone once more where something elsewhere is in the way", async () => {
    let came: Came = { status: 200, body: { sent: 1 } };
    const { removing, sent } = given(() => came);
    const elsewhere = [{ what: "changed" as const, table: "Stock", row: 7 }];
    const saved = { ...record(5), elsewhere };
    sitting.keep(saved);
    await removing.takeBack(saved);
    expect(said().text).toBe(
      "Row 5 was taken back, with what it did elsewhere. Its message has gone out already.",
    );
    came = { status: 200, body: record(5, {}, 3) };
    await removing.putBack(5, elsewhere);
    expect(sitting.snapshot().kept[0]?.record.elsewhere).toEqual(elsewhere);
    const detail = "Row 7 of Stock was changed since. Nothing was done.";
    came = { status: 409, body: { detail, elsewhere: true } };
    await removing.takeBack(saved);
    expect(said().text).toBe(`${detail} Once more: take back only the entry.`);
    expect(sitting.snapshot().kept[0]?.taken).toBe(false);
    came = { status: 204, body: undefined };
    await removing.takeBack(saved);
    expect(sent.at(-1)?.ifMatch).toBe('"1"');
    expect(said().text).toBe("Row 5 was taken back");
    expect(sitting.snapshot().kept[0]?.taken).toBe(true);
  });
});
