import type { Form, RunSheet } from "../../api/client";
import { itemsOf } from "../../model/items";
import { rulesOf } from "./edits";

/** Where on the Bench a thing is set: among the rules, or in the settings of a field. */
export type Place = { rule: string; name: string } | { item: string; name: string };

/** Where that is mended which a line of the run sheet speaks of. */
export function placeOf(form: Form, line: RunSheet["steps"][number]): Place | undefined {
  const rules = rulesOf(form);
  const id = line.rule || line.about;
  if (rules.checks.some((each) => each.id === id)) return { rule: `check ${id}`, name: "the check" };
  if (rules.fills.some((each) => each.id === id)) return { rule: `fill ${id}`, name: "the fill" };
  if (line.rule) {
    const list = rules.choices.findIndex((each) => each.column === line.rule);
    if (list >= 0) return { rule: `list ${list}`, name: "the list" };
    return { rule: `between ${line.rule}`, name: "what holds between records" };
  }
  if (line.stage === "after" || rules.steps.some((each) => each.when === id)) {
    return { rule: `step 0 ${id || "saved"}`, name: "the steps" };
  }
  const item = itemsOf(form).find(
    (each) => each.id === id || (each.kind === "field" && each.column === line.about),
  );
  return item && { item: item.id, name: "its settings" };
}
