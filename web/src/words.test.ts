import { beforeEach, describe, expect, it } from "vitest";
import type { Schemas } from "./api/client";
import { ago, hourly, inTwoLines } from "./desk/trayWords";
import { backAt, broughtTo, comeBack, setOut, type Visit } from "./desk/visits";
import type { DoorAnswer } from "./doors/useDoor";
import { inOneLine, may } from "./doors/words";
import type { Kept } from "./entry/sitting";
import { firstField, focusable, widthOf } from "./model/items";
import { shown } from "./model/shown";
import { headings } from "./tables/headings";
import { atDoor, browser, field, form, record } from "./testing/given";
import { between, percent, perHundred, seconds, shareOf } from "./work/words";

describe("an entry in the tray", () => {
  const FORM = form([
    field("site"),
    field("ph", { unit: "pH" }),
    field("bad", { widget: "yesno" }),
    field("at", { widget: "time" }),
    field("note"),
  ]);

  it("is known by its first two values, and then by the next ones", () => {
    const values = { site: { id: 3, row: 3, shown: "QB-03" }, ph: 7.4, bad: false, at: "09:30:00" };
    expect(inTwoLines(atDoor(FORM), values)).toEqual({ title: "QB-03 · 7.4 pH", detail: "BAD no, 09:30" });
    expect(inTwoLines({ ...atDoor(FORM), tray: ["at", "gone"] }, values)).toEqual({
      title: "09:30",
      detail: "",
    });
    expect(inTwoLines(atDoor(FORM), {})).toEqual({ title: "", detail: "" });
  });

  it("says how long ago it was, and how many that makes an hour once that tells something", () => {
    expect([0, 59_999, 60_000, 3_599_999, 3_600_000].map((past) => ago(0, past))).toEqual([
      "just now",
      "just now",
      "1 min",
      "59 min",
      "1 h 0 min",
    ]);
    const kept = (many: number): Kept[] =>
      Array.from({ length: many }, (_, n) => ({ record: record(n), at: (many - n) * 1_000, taken: false }));
    expect(hourly(kept(4), 600_000)).toBeUndefined();
    expect(hourly(kept(5), 60_000)).toBeUndefined();
    expect(hourly(kept(10), 361_000)).toBe(100);
    expect(hourly([], 0)).toBeUndefined();
  });
});

describe("a visit", () => {
  const visit = (from: string, to: string): Visit => ({
    from,
    title: from,
    record: null,
    typed: { site: "QB" },
    column: "site",
    label: "Site",
    to,
    open: null,
  });

  beforeEach(() => {
    browser();
  });

  it("leads back the way it came, with what was made", () => {
    setOut(visit("samples", "sites"));
    setOut(visit("sites", "rivers"));
    expect(broughtTo("sites")).toBeUndefined();
    expect(broughtTo("rivers")?.from).toBe("sites");
    comeBack({ id: 7, words: "Quill" });
    expect(backAt("samples")).toBeUndefined();
    expect(backAt("sites")?.made).toEqual({ id: 7, words: "Quill" });
    expect(backAt("sites")).toBeUndefined();
    expect(broughtTo("sites")?.typed).toEqual({ site: "QB" });
    comeBack();
    expect(backAt("samples")?.made).toBeUndefined();
    expect(broughtTo("sites")).toBeUndefined();
  });
});

describe("words and figures", () => {
  it.each<[Schemas["May"][], string]>([
    [["add"], "add only"],
    [["see"], "look only"],
    [["see", "export"], "see, take away"],
    [[], "nothing yet"],
    [["see", "add", "change", "remove", "export"], "all of it"],
  ])("says of %j: %s", (what, words) => {
    expect(may(what)).toBe(words);
  });

  it("tells a door in one line: who, what, and which records", () => {
    const door = { who: {}, view: {}, may: ["see"] } as unknown as DoorAnswer;
    expect(inOneLine(door)).toBe("nobody yet · look only · all records");
    expect(
      inOneLine({
        ...door,
        who: { groups: ["Samplers"], people: ["odile"], link: true },
        view: { where: ["site:QB-03"], own: true },
        may: ["add"],
      } as unknown as DoorAnswer),
    ).toBe("Samplers, odile, anybody with the address · add only · no record is shown");
    expect(inOneLine({ ...door, view: { where: ["ph:> 9"], own: true } } as unknown as DoorAnswer)).toBe(
      "nobody yet · look only · ph > 9, their own",
    );
  });

  it("shows shares, times and rates with as many digits as tell something, and a dash for none", () => {
    expect([0.0123, 0.1, 1].map(percent)).toEqual(["1.23 %", "10.0 %", "100.0 %"]);
    expect(shareOf({ times: 0, of: 0 } as never)).toBe("–");
    expect(shareOf({ times: 1, of: 8 } as never)).toBe("12.5 %");
    expect(between({ low: 0.0312, high: 0.2 } as never)).toBe("3.12 to 20.00");
    expect([undefined, null, 9.96, 123.4].map(seconds)).toEqual(["–", "–", "10.0", "123"]);
    expect([perHundred(1, 0), perHundred(1, 3)]).toEqual(["–", "33.3"]);
  });

  it("shows a stored value as it would be read", () => {
    expect([true, false, null, undefined, 0, 7.4].map((value) => shown(value))).toEqual([
      "yes",
      "no",
      "",
      "",
      "0",
      "7.4",
    ]);
    expect(shown("2026-08-01T09:30:00", "datetime")).toBe("2026-08-01 09:30");
    expect(shown("09:30:07", "time")).toBe("09:30:07");
    expect(shown("12:00:00", "text")).toBe("12:00:00");
    expect(shown({ id: 1, row: 2, shown: "QB-03" })).toBe("QB-03");
  });

  it.each([
    ["Site\npH\n\nNote", ["Site", "pH", "Note"]],
    ["Site\tpH\tNote\n", ["Site", "pH", "Note"]],
    ["Site; pH, whole; Note", ["Site", "pH, whole", "Note"]],
    ['"Site", pH', ["Site", "pH"]],
    ["  ", []],
  ])("reads the headings in %j", (typed, all) => {
    expect(headings(typed)).toEqual(all);
  });
});

it("Tab stops where one can type or read, and typing begins where the form says", () => {
  const of = form([
    field("hidden", { use: "hidden" }),
    field("shown", { use: "read-only" }),
    field("site"),
    field("ph", { first: true }),
  ]);
  expect(focusable(of).map(({ column }) => column)).toEqual(["shown", "site", "ph"]);
  expect(firstField(of)?.column).toBe("ph");
  expect(firstField(form([field("site"), field("ph")]))?.column).toBe("site");
  expect(firstField(form([field("shown", { use: "read-only" })]))).toBeUndefined();
  expect(widthOf({ kind: "lines" } as never)).toBe(12);
});
