import { describe, expect, it } from "vitest";
import type { RunSheet } from "../../api/client";
import { field, form, OF_SITE } from "../../testing/given";
import { at, derived, free, NO_RULES, ruled, rulesOf } from "./edits";
import { placeOf } from "./place";

const FORM = form([field("site", { label: "Site" }), field("ph", { label: "pH" }), field("name")]);
FORM.rules = {
  ...NO_RULES,
  checks: [
    {
      id: "rare",
      asks: true,
      stays: false,
      message: "",
      rule: { kind: "range", column: "ph", from: "6", to: "9" },
    },
  ],
  fills: [OF_SITE],
  choices: [{ column: "site", table: "sites", source: "code", shown: "", when: [], open: false }],
  steps: [{ when: "saved", steps: [] }],
};

describe("changes of rules", () => {
  it("set, change and take away a formula, and leave the others", () => {
    const set = derived("ph", "default", "7")(derived("ph", "locked", "true")(FORM));
    expect(rulesOf(set).formulas).toHaveLength(2);
    const other = derived("ph", "default", "8")(set);
    expect(rulesOf(other).formulas.find(({ what }) => what === "default")?.formula).toBe("8");
    expect(rulesOf(derived("ph", "default", "  ")(other)).formulas).toEqual([
      { target: "ph", what: "locked", formula: "true" },
    ]);
    expect(rulesOf(ruled(() => ({ checks: [] }))(FORM)).fills).toHaveLength(1);
  });

  it("name what is new so that nothing else bears the name", () => {
    expect(free("check", [])).toBe("check");
    expect(free("check", ["check", "check-2"])).toBe("check-3");
    expect(at(["a", "b", "c"], 1, () => undefined)).toEqual(["a", "c"]);
    expect(at(["a", "b", "c"], 1, (b) => b + b)).toEqual(["a", "bb", "c"]);
  });
});

describe("a line of the run sheet leads to", () => {
  const line = (more: Partial<RunSheet["steps"][number]>) =>
    placeOf(FORM, { stage: "check", mark: "stop", about: "", rule: "", text: "", micros: 1, ...more });

  it("the check, fill, list or steps that it comes from", () => {
    expect(line({ about: "ph", rule: "rare" })).toEqual({ rule: "check rare", name: "the check" });
    expect(line({ stage: "formula", mark: "fault", about: "rare" })).toMatchObject({ rule: "check rare" });
    expect(line({ stage: "fill", about: "site", rule: "of-site" })).toMatchObject({ rule: "fill of-site" });
    expect(line({ about: "site", rule: "site" })).toMatchObject({ rule: "list 0" });
    expect(line({ stage: "after", about: "saved" })).toMatchObject({ rule: "steps saved" });
    expect(line({ stage: "after" })).toMatchObject({ rule: "steps saved" });
  });

  it("what holds between records, where a constraint of the table says it", () => {
    expect(line({ about: "ph", rule: "c12" })).toMatchObject({ rule: "between" });
  });

  it("the settings of its field otherwise, and nowhere for the whole entry", () => {
    expect(line({ about: "ph" })).toEqual({ item: "ph", name: "its settings" });
    expect(line({ stage: "write", mark: "done" })).toBeUndefined();
  });
});
