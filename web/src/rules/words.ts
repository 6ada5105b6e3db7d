import type { Form, FormCheckRule, FormFill, FormStepAction } from "../api/client";
import { fieldsOf } from "../form/items";

/** What people know a column as. */
export const labelOf = (form: Form, column: string): string =>
  fieldsOf(form).find((field) => field.column === column)?.label || column;

const listed = (form: Form, columns: string[]): string =>
  columns.map((column) => labelOf(form, column)).join(", ");

/** A check in a sentence. */
export function checkWords(form: Form, rule: FormCheckRule): string {
  switch (rule.kind) {
    case "any-of":
      return `at least one of ${listed(form, rule.columns)} is filled`;
    case "range":
      return `${labelOf(form, rule.column)} is ${rule.from && rule.to ? `between ${rule.from} and ${rule.to}` : rule.from ? `at least ${rule.from}` : `at most ${rule.to || "…"}`}`;
    case "length":
      return `${labelOf(form, rule.column)} has ${rule.from}${rule.to ? ` to ${rule.to}` : " or more"} characters`;
    case "matches":
      return `${labelOf(form, rule.column)} is written like ${rule.pattern || "…"}`;
    case "one-of":
      return `${labelOf(form, rule.column)} is one of ${rule.list.join(", ") || "…"}`;
    case "needs":
      return `${labelOf(form, rule.column)} needs ${labelOf(form, rule.other)} too`;
    case "holds":
      return rule.formula || "a formula holds";
    case "complete":
      return rule.columns.length > 0 ? `${listed(form, rule.columns)} are filled` : "everything is filled";
  }
}

/** A fill in a sentence. */
export const fillWords = (form: Form, fill: FormFill): string =>
  `${listed(
    form,
    fill.keys.map((key) => key.column),
  )} brings ${
    listed(
      form,
      fill.brings.map((tie) => tie.column),
    ) || "nothing yet"
  } in from ${fill.table}`;

/** A step in a few words. */
export function stepWords(action: FormStepAction): string {
  switch (action.kind) {
    case "press":
      return action.action === "put-back" ? "put the record back" : action.action;
    case "open":
      return `open ${action.form || "a form"}`;
    case "set-field":
      return `set ${action.value.column}`;
    case "add-row":
      return `add a row to ${action.table}`;
    case "change-row":
      return `change the matching row of ${action.table}`;
    case "send":
      return `send a message to ${action.to || "…"}`;
    case "say":
      return `say “${action.text}”`;
    case "ask":
      return `ask “${action.text}”`;
  }
}

/** What rules do with each field, in a word, by column. */
export function ruleMarks(form: Form): Map<string, string> {
  const marks = new Map<string, string>();
  const { checks = [], fills = [], formulas = [], choices = [], numbers = [] } = form.rules ?? {};
  for (const { rule } of checks)
    for (const column of "column" in rule ? [rule.column] : rule.columns) marks.set(column, "check");
  for (const { target } of formulas) marks.set(target, "formula");
  for (const { column } of choices) marks.set(column, "list");
  for (const { column } of numbers) marks.set(column, "number");
  for (const fill of fills) for (const { column } of fill.brings) marks.set(column, "fill");
  return marks;
}
