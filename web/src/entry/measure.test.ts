import { describe, expect, it } from "vitest";
import type { Finding, Form } from "../api/client";
import { Entry } from "./entry";
import { Measure } from "./measure";

/** An entry of three fields, and a clock that is set by hand. */
function given() {
  const entry = new Entry("door");
  entry.follow({ sections: [], rules: undefined } as unknown as Form, 1);
  const time = { now: 0 };
  const measure = new Measure(entry, ["site", "ph", "note"], () => time.now);
  const type = (column: string, text: string, each = 200) => {
    measure.focus(column);
    for (let n = 1; n <= text.length; n++) {
      time.now += each;
      measure.key(column, text[n - 1] ?? "");
      entry.type(column, text.slice(0, n));
    }
  };
  return { entry, time, measure, type };
}

const finding = (field: string, severity: Finding["severity"], rule = ""): Finding => ({
  field,
  code: "range",
  severity,
  message: "",
  rule,
});

describe("what is counted of an entry", () => {
  it("is the time in each field, the keys, and the fewest that would do", () => {
    const { entry, time, measure, type } = given();
    type("site", "QB-03");
    time.now += 1_000;
    measure.key("site", "Tab");
    type("ph", "72", 500);
    time.now += 300;
    const work = measure.taken(entry.snapshot());
    expect(work?.keys).toBe(8);
    // Five letters, two digits, and a step from the first to the second.
    expect(work?.least).toBe(8);
    expect(work?.fields?.site?.seconds).toBeCloseTo(1.8);
    expect(work?.fields?.ph?.seconds).toBeCloseTo(1.3);
    expect(work?.seconds).toBeCloseTo(3.1);
    expect(JSON.stringify(work)).not.toContain("QB-03");
  });

  it("leaves out a pause, and begins anew with the next entry", () => {
    const { entry, time, measure, type } = given();
    type("site", "ab");
    time.now += 3_600_000;
    type("ph", "7");
    expect(measure.taken(entry.snapshot())?.seconds).toBeLessThan(1);
    entry.turn();
    type("site", "c");
    expect(measure.taken(entry.snapshot())?.keys).toBe(1);
  });

  it("tells stops, asks, what was typed again, and going back", () => {
    const { entry, measure, type } = given();
    type("site", "a");
    type("ph", "99");
    measure.stopped([finding("ph", "stop"), finding("note", "ask", "rare")]);
    type("ph", "9");
    measure.focus("site");
    entry.answer({ rare: "yes" });
    const work = measure.taken(entry.snapshot());
    expect(work?.hindered).toBe(true);
    expect(work?.fields?.ph).toMatchObject({ stops: 1, again: 1, back: 1 });
    expect(work?.fields?.note).toMatchObject({ asks: 1, stops: 0 });
    expect(work?.rules?.rare).toEqual({ stops: 0, asks: 1, despite: 1 });
  });

  it("is nothing of a record that is corrected, nor of keys elsewhere", () => {
    const { entry, measure } = given();
    measure.key(undefined, "a");
    entry.show({ id: 1, row: 1, version: 1, values: {} }, { site: "x" });
    measure.key("site", "b");
    expect(measure.taken(entry.snapshot())).toBeUndefined();
  });
});
