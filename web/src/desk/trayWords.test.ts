import { describe, expect, it } from "vitest";
import type { Kept } from "../entry/sitting";
import { atDoor, field, form, record } from "../testing/given";
import { ago, didElsewhere, hourly, inTwoLines } from "./trayWords";

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

  it("says what its save did elsewhere", () => {
    const words = (["added", "changed", "removed", "sent"] as const).map((what) =>
      didElsewhere({ what, table: "Repairs", row: 118 }),
    );
    expect(words).toEqual([
      "added to Repairs, row 118",
      "changed in Repairs, row 118",
      "removed from Repairs, row 118",
      "a message goes out",
    ]);
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
