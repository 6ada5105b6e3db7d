import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Form, Schemas } from "../api/client";
import { NO_RULES } from "../bench/rules/edits";
import { assessment, field, form, OF_SITE, server, stop } from "../testing/given";
import { changes, Entry, likesOf, shownFindings } from "./entry";

const FORM = form([
  field("site", { carried: true }),
  field("name"),
  field("ph"),
  field("state", { begins: "open" }),
]);
const RECORD = { id: 7, row: 3, version: 1, values: {} };

function entry(of: Form = FORM) {
  const made = new Entry("samples");
  made.follow(of, 2);
  return made;
}
const typed = (of: Entry) => of.snapshot().typed;
const found = (of: Entry) => shownFindings(of.snapshot()).map((each) => each.field);

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

describe("a new entry", () => {
  it("is said to be a new one for as long as what a rule compares stays", async () => {
    const alike = { id: "double", asks: true, stays: false, message: "" };
    const must = { kind: "alike" as const, columns: ["name"], sound: false, all: false };
    const made = entry({ ...FORM, rules: { ...NO_RULES, checks: [{ ...alike, rule: must }] } });
    const like = { id: 7, row: 3, called: "Row 3", values: ["Wenna"], why: "Name one letter apart" };
    const finding = {
      ...stop("name", "alike"),
      severity: "ask" as const,
      rule: "double",
      cause: { is: "nearly-alike" as const, records: [like], unseen: 2 },
    };
    server(() => ({ status: 200, body: assessment({ findings: [finding] }) }));
    made.type("name", "Wena");
    await vi.runAllTimersAsync();
    expect(likesOf(made.snapshot())).toEqual({ field: "name", rule: "double", records: [like], unseen: 2 });
    made.leave("name");
    // It is told beside the field, and not once more below it.
    expect(found(made)).toEqual([]);
    expect(made.beside.answers).toEqual({});
    made.sayNew("double");
    expect(made.beside.answers).toEqual({ double: "yes" });
    made.type("ph", "7");
    expect(made.beside.answers).toEqual({ double: "yes" });
    made.type("name", "Wenna");
    expect(made.beside.answers).toEqual({});
  });

  it("tells of a stored record what is unusual in it, and nothing else that nobody touched", async () => {
    const season = { id: "season", asks: true, stays: false, message: "" };
    const must = { kind: "usual" as const, column: "ph", by: [], all: false };
    const made = entry({ ...FORM, rules: { ...NO_RULES, checks: [{ ...season, rule: must }] } });
    const unusual = { ...stop("ph"), code: "unusual" as const, severity: "ask" as const, rule: "season" };
    const sent = server(() => ({ status: 200, body: assessment({ findings: [unusual, stop("name")] }) }));
    made.show({ ...RECORD, values: { ph: "3" } }, { ph: "3" });
    await vi.runAllTimersAsync();
    expect(sent).toHaveLength(1);
    expect(shownFindings(made.snapshot())).toEqual([unusual]);
  });

  it("begins with what its fields begin with, and is blank until somebody types", () => {
    const made = entry();
    expect(typed(made)).toEqual({ state: "open" });
    expect(made.blank).toBe(true);
    made.type("state", " open ");
    expect(made.blank).toBe(true);
    made.type("ph", "7");
    expect(made.blank).toBe(false);
    expect(made.dirty).toBe(true);
  });

  it("keeps what is carried over for the next, and what a link gave before that", () => {
    const made = entry();
    made.type("site", "QB-03");
    made.type("ph", "7");
    made.await("key");
    made.turn();
    expect(typed(made)).toEqual({ site: "QB-03", state: "open" });
    expect(made.blank).toBe(true);
    made.give({ site: "TS-01" });
    expect(typed(made)).toEqual({ site: "TS-01", state: "open" });
  });

  it("takes what is typed while its save is under way for the next one", () => {
    const made = entry();
    made.type("site", "QB-03");
    made.await("key");
    made.type("ph", "8");
    expect(made.snapshot().pending).toBeUndefined();
    expect(typed(made)).toEqual({ site: "QB-03", state: "open", ph: "8" });
  });

  it("begins anew by another version while it is blank, and says what it cannot keep in the midst", () => {
    const other = form([field("site", { begins: "new" })]);
    const blank = entry();
    expect(blank.follow(other, 3)).toEqual([]);
    expect(typed(blank)).toEqual({ site: "new" });
    const made = entry();
    made.type("site", "QB-03");
    made.type("ph", "7");
    made.stopped(typed(made), [stop("depth")]);
    expect(made.outgrown).toBe(true);
    expect(made.follow(other, 3)).toEqual(["PH (7)"]);
    expect(typed(made)).toEqual({ site: "QB-03" });
    made.turn();
    expect(typed(made)).toEqual({ site: "new" });
  });

  it("comes back as it was typed when it is stopped", () => {
    const made = entry();
    made.stopped({ site: "QB-03", ph: "74" }, [stop("ph")]);
    expect(typed(made)).toEqual({ site: "QB-03", ph: "74" });
    expect(found(made)).toEqual(["ph"]);
    made.type("site", "QB-04");
    expect(found(made)).toEqual(["ph"]);
    made.type("ph", "7");
    expect(found(made)).toEqual([]);
  });
});

describe("what is asked and chosen", () => {
  const filled = form([field("site"), field("name"), field("ph")]);
  filled.rules = {
    ...NO_RULES,
    fills: [OF_SITE],
  };

  it("another key takes away what was typed over what the one before brought in", () => {
    const made = entry(filled);
    made.type("site", "QB-03");
    made.choose("of-site", 9);
    made.type("name", "Mine");
    expect(made.beside.chosen).toEqual({ "of-site": 9 });
    made.type("site", "QB-04");
    expect(typed(made)).toEqual({ site: "QB-04" });
    expect(made.beside.chosen).toEqual({});
  });

  it("in a stored record the field goes back to what it held", () => {
    const made = entry(filled);
    made.show(RECORD, { site: "QB-03", name: "Stored" }, { name: "Mine" });
    made.type("site", "QB-04");
    expect(typed(made)).toEqual({ site: "QB-04", name: "Stored" });
  });

  it("answers count until something else is typed", () => {
    const made = entry();
    made.answer({ incomplete: "yes" });
    made.answer({ offer: "no" });
    expect(made.beside.answers).toEqual({ incomplete: "yes", offer: "no" });
    made.type("ph", "7");
    expect(made.beside.answers).toEqual({});
  });
});

describe("findings", () => {
  let findings: Schemas["FindingJson"][] = [];
  beforeEach(() => {
    findings = [];
    server(() => ({ status: 200, body: assessment({ findings: [...findings] }) }));
  });
  const settle = () => vi.advanceTimersByTimeAsync(200);

  it("show once the field is left, and what is typed is asked about once keys pause", async () => {
    const sent = server(() => ({ status: 200, body: assessment({ findings: [stop("ph")] }) }));
    const made = entry();
    for (const text of ["7", "74", "74 "]) made.type("ph", text);
    await settle();
    expect(sent).toHaveLength(1);
    expect(sent[0]?.body).toMatchObject({ values: { ph: "74 ", state: "open" }, version: 2 });
    expect(found(made)).toEqual([]);
    made.leave("ph");
    expect(found(made)).toEqual(["ph"]);
  });

  it("of what was half typed are not said of what stands there when it is left", async () => {
    const made = entry();
    findings = [stop("ph")];
    made.type("ph", "7.");
    await settle();
    made.type("ph", "7.4");
    made.leave("ph");
    expect(found(made)).toEqual([]);
    findings = [];
    await settle();
    expect(found(made)).toEqual([]);
    // Once shown, they stay while the field is put right, until the next answer.
    findings = [stop("ph")];
    made.type("ph", "74");
    await settle();
    expect(found(made)).toEqual(["ph"]);
    made.type("ph", "7");
    expect(found(made)).toEqual(["ph"]);
    findings = [];
    await settle();
    expect(found(made)).toEqual([]);
  });

  it("of fields that nobody typed in are not shown", async () => {
    findings = [stop("name")];
    const made = entry();
    made.leave("name");
    made.type("ph", "7");
    await settle();
    expect(found(made)).toEqual([]);
  });

  it("that come too late are not taken", async () => {
    let answer: (came: unknown) => void = () => {};
    const { api } = await import("../api/client");
    vi.spyOn(api, "POST").mockReturnValueOnce(
      new Promise((resolve) => {
        answer = resolve;
      }) as never,
    );
    const made = entry();
    made.type("ph", "7");
    await settle();
    made.turn();
    answer({ data: assessment({ findings: [stop("ph")] }), response: { ok: true } });
    await settle();
    expect(made.snapshot().assessment?.findings ?? []).toEqual([]);
  });
});

describe("a stored record", () => {
  const BASE = { site: "QB-03", ph: "7.0" };

  it("is dirty with what differs, blanks around it aside", () => {
    const made = entry();
    made.show(RECORD, BASE);
    expect(made.dirty).toBe(false);
    made.type("ph", " 7.0 ");
    expect(made.dirty).toBe(false);
    made.type("ph", "7.4");
    expect(changes(made.snapshot())).toEqual({ ph: "7.0" });
    made.putBack();
    expect(made.dirty).toBe(false);
  });

  it("keeps what was typed after its change was sent", () => {
    const made = entry();
    made.show(RECORD, BASE, { ph: "7.4" });
    const sent = { ...typed(made) };
    made.type("site", "QB-04");
    made.stored({ ...RECORD, version: 2 }, { site: "QB-03", ph: "7.4" }, sent);
    expect(made.snapshot().record?.version).toBe(2);
    expect(changes(made.snapshot())).toEqual({ site: "QB-03" });
    expect(typed(made)).toEqual({ site: "QB-04", ph: "7.4" });
  });
});
