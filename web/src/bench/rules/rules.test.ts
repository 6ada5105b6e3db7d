import { describe, expect, it } from "vitest";
import type { FormCheck, RunSheet } from "../../api/client";
import { field, form, OF_SITE } from "../../testing/given";
import { at, free, NO_RULES, rulesOf } from "./edits";
import { add, keyOf, moveStep, put, type Rule, ruleAt, takeAway } from "./keys";
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
  const rare = rulesOf(FORM).checks[0] as FormCheck;

  it("are made where their key says, and leave the others", () => {
    const asks = put("check rare", { part: "checks", rule: { ...rare, id: "", asks: false } })(FORM);
    expect(rulesOf(asks).checks).toEqual([{ ...rare, asks: false }]);
    expect(rulesOf(asks).fills).toEqual([OF_SITE]);
    expect(rulesOf(takeAway("check rare")(asks)).checks).toEqual([]);
    expect(ruleAt(FORM, "list 0")).toMatchObject({ part: "choices", rule: { column: "site" } });
    expect(ruleAt(FORM, "check gone")).toBeUndefined();
    expect(ruleAt(FORM, "between 3")).toBeUndefined();
  });

  it("give a new rule an id of its own, and let it take the place of the one that it would hide", () => {
    const check: Rule = { part: "checks", rule: { ...rare, id: "" } };
    const twice = add(check)(add(check)(FORM));
    expect(rulesOf(twice).checks.map(({ id }) => id)).toEqual(["rare", "check", "check-2"]);
    expect(keyOf(twice, check)).toBe("check check-2");

    const begins = (formula: string): Rule => ({
      part: "formulas",
      rule: { target: "ph", what: "default", formula },
    });
    const locked: Rule = { part: "formulas", rule: { target: "ph", what: "locked", formula: "true" } };
    const set = add(begins("8"))(add(locked)(add(begins("7"))(FORM)));
    expect(rulesOf(set).formulas).toEqual([begins("8").rule, locked.rule]);
    expect(keyOf(set, begins("8"))).toBe("formula 0");
  });

  it("keep steps in their order, and what a question is called", () => {
    const say = (text: string): Rule => ({
      part: "steps",
      when: "saved",
      rule: { onlyIf: "", action: { kind: "say", text } },
    });
    const ask = (text: string): Rule => ({
      part: "steps",
      when: "saved",
      rule: { onlyIf: "", action: { kind: "ask", id: "", text, usual: "no" } },
    });
    const three = add(ask("So?"))(add(say("two"))(add(say("one"))(FORM)));
    const texts = (form: typeof FORM) =>
      rulesOf(form).steps.flatMap(({ steps }) =>
        steps.map(({ action }) => ("text" in action ? action.text : "")),
      );
    expect(texts(three)).toEqual(["one", "two", "So?"]);
    expect(texts(moveStep("step 2 saved", -1)(three))).toEqual(["one", "So?", "two"]);
    expect(texts(moveStep("step 0 saved", -1)(three))).toEqual(["one", "two", "So?"]);
    const other = put("step 2 saved", ask("Sure?"))(three);
    expect(ruleAt(other, "step 2 saved")?.rule).toMatchObject({ action: { id: "question", text: "Sure?" } });
    expect(rulesOf(takeAway("step 0 saved")(add(say("one"))(FORM))).steps).toEqual([]);
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
    expect(line({ stage: "after", about: "saved" })).toMatchObject({ rule: "step 0 saved" });
    expect(line({ stage: "after" })).toMatchObject({ rule: "step 0 saved" });
  });

  it("what holds between records, where a constraint of the table says it", () => {
    expect(line({ about: "ph", rule: "c12" })).toMatchObject({ rule: "between c12" });
  });

  it("the settings of its field otherwise, and nowhere for the whole entry", () => {
    expect(line({ about: "ph" })).toEqual({ item: "ph", name: "its settings" });
    expect(line({ stage: "write", mark: "done" })).toBeUndefined();
  });
});
