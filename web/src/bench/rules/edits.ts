import type { Form, FormRules } from "../../api/client";
import type { Edit } from "../edits";

/** A form without rules. */
export const NO_RULES: FormRules = {
  checks: [],
  fills: [],
  formulas: [],
  choices: [],
  numbers: [],
  steps: [],
  practice: [],
};

export const rulesOf = (form: Form): FormRules => form.rules ?? NO_RULES;

/** The form with these of its rules changed. */
export const ruled =
  (change: (rules: FormRules) => Partial<FormRules>): Edit =>
  (form) => ({ ...form, rules: { ...rulesOf(form), ...change(rulesOf(form)) } });

/** A name that none of those has yet. */
export function free(base: string, taken: string[]): string {
  if (!taken.includes(base)) return base;
  let n = 2;
  while (taken.includes(`${base}-${n}`)) n++;
  return `${base}-${n}`;
}

/** The list with its item at that place changed, or taken out where nothing comes of it. */
export function at<T>(list: T[], place: number, change: (item: T) => T | undefined): T[] {
  return list.flatMap((item, i) => {
    if (i !== place) return [item];
    const changed = change(item);
    return changed === undefined ? [] : [changed];
  });
}
