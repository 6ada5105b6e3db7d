import type { Form, FormDeclared, FormRules, FormStep } from "../../api/client";
import type { Edit } from "../edits";
import { at, free, ruled, rulesOf } from "./edits";

/** A rule as a form document has it, with the part of the rules that it belongs in and, for a step, its place. */
export type Rule = FormDeclared;

/** The rules of one part. */
export type RuleOf<P extends Rule["part"]> = Extract<Rule, { part: P }>;

const PARTS = {
  check: "checks",
  fill: "fills",
  formula: "formulas",
  list: "choices",
  number: "numbers",
  step: "steps",
} as const;

type Kind = keyof typeof PARTS;
type Part = (typeof PARTS)[Kind];

/** What a key of the Bench's state names: its part, and its id or its place in that part. */
function named(key: string): { part: Part; id: string; when: string } {
  const [kind = "", id = "", ...when] = key.split(" ");
  const part = kind in PARTS ? PARTS[kind as Kind] : "checks";
  return part === "steps"
    ? { part, id, when: when.join(" ") }
    : { part, id: key.slice(kind.length + 1), when: "" };
}

const stepsAt = (rules: FormRules, when: string): FormStep[] =>
  rules.steps.find((each) => each.when === when)?.steps ?? [];

const alone = <P extends Part>(part: P, rule: RuleOf<P>["rule"] | undefined): RuleOf<P> | undefined =>
  rule && ({ part, rule } as RuleOf<P>);

/** The rule of that key; none where it is gone, or is kept by the table. */
export function ruleAt(form: Form, key: string): Rule | undefined {
  const rules = rulesOf(form);
  const { part, id, when } = named(key);
  if (key.startsWith("between ")) return undefined;
  switch (part) {
    case "checks":
      return alone(
        part,
        rules.checks.find((each) => each.id === id),
      );
    case "fills":
      return alone(
        part,
        rules.fills.find((each) => each.id === id),
      );
    case "formulas":
      return alone(part, rules.formulas[Number(id)]);
    case "choices":
      return alone(part, rules.choices[Number(id)]);
    case "numbers":
      return alone(part, rules.numbers[Number(id)]);
    case "steps": {
      const rule = stepsAt(rules, when)[Number(id)];
      return rule && { part, when, rule };
    }
  }
}

/** The steps of a place changed so; a place without steps is none. */
const ofSteps = (when: string, change: (steps: FormStep[]) => FormStep[]): Edit =>
  ruled((rules) => {
    const known = rules.steps.some((each) => each.when === when);
    const all = known ? rules.steps : [...rules.steps, { when, steps: [] }];
    return {
      steps: all
        .map((each) => (each.when === when ? { when, steps: change(each.steps) } : each))
        .filter(({ steps }) => steps.length > 0),
    };
  });

/** The rules with that one in the place that the key names, or with none there. */
function changed(key: string, next: Rule | undefined): Edit {
  const { part, id, when } = named(key);
  if (part === "steps") return ofSteps(when, (steps) => at(steps, Number(id), () => next?.rule as FormStep));
  return ruled((rules) => {
    const list = rules[part] as { id?: string }[];
    const place =
      part === "checks" || part === "fills" ? list.findIndex((each) => each.id === id) : Number(id);
    return { [part]: at(list, place, () => next?.rule as (typeof list)[number] | undefined) };
  });
}

/** What a rule is called stays when the rest of it is another. */
function keeping(before: Rule, rule: Rule): Rule {
  if (before.part === "checks" && rule.part === "checks")
    return { ...rule, rule: { ...rule.rule, id: before.rule.id } };
  if (before.part === "fills" && rule.part === "fills")
    return { ...rule, rule: { ...rule.rule, id: before.rule.id } };
  if (before.part === "steps" && rule.part === "steps") {
    const [was, is] = [before.rule.action, rule.rule.action];
    if (was.kind === "ask" && is.kind === "ask")
      return { ...rule, rule: { ...rule.rule, action: { ...is, id: was.id } } };
  }
  return rule;
}

/** Whether one rule can stand where the other does. */
export const sameRoom = (one: Rule, other: Rule): boolean =>
  one.part === "steps" && other.part === "steps" ? one.when === other.when : one.part === other.part;

/** The rule of that key made another one of its part. */
export const put =
  (key: string, rule: Rule): Edit =>
  (form) => {
    const before = ruleAt(form, key);
    return before ? changed(key, keeping(before, rule))(form) : form;
  };

export const takeAway = (key: string): Edit => changed(key, undefined);

/** A step one place up or down among those of its place. */
export const moveStep = (key: string, by: -1 | 1): Edit => {
  const { id, when } = named(key);
  return ofSteps(when, (steps) => {
    const from = Number(id);
    if (from + by < 0 || from + by >= steps.length) return steps;
    const next = [...steps];
    const [one] = next.splice(from, 1);
    next.splice(from + by, 0, one as FormStep);
    return next;
  });
};

/** The key of a step once it is moved. */
export const movedKey = (key: string, by: -1 | 1) => {
  const { id, when } = named(key);
  return `step ${Number(id) + by} ${when}`;
};

/** Where among those of its part the rule stands of which there can be only one beside this; none has a place for each. */
function placeOfSame(rules: FormRules, rule: Rule): number {
  switch (rule.part) {
    case "formulas":
      return rules.formulas.findIndex(
        (each) => each.target === rule.rule.target && each.what === rule.rule.what,
      );
    case "choices":
      return rules.choices.findIndex((each) => each.column === rule.rule.column);
    case "numbers":
      return rules.numbers.findIndex((each) => each.column === rule.rule.column);
    case "checks":
    case "fills":
    case "steps":
    case "between":
      return -1;
  }
}

const ids = (list: { id: string }[]) => list.map((each) => each.id);

/** The form with one more rule; of which there can be only one takes the place of the one before. */
export const add =
  (rule: Rule): Edit =>
  (form) => {
    const rules = rulesOf(form);
    const place = placeOfSame(rules, rule);
    const into = <T>(list: T[], one: T) => (place < 0 ? [...list, one] : at(list, place, () => one));
    switch (rule.part) {
      case "checks":
        return ruled(() => ({
          checks: [...rules.checks, { ...rule.rule, id: free("check", ids(rules.checks)) }],
        }))(form);
      case "fills":
        return ruled(() => ({
          fills: [...rules.fills, { ...rule.rule, id: free("fill", ids(rules.fills)) }],
        }))(form);
      case "formulas":
        return ruled(() => ({ formulas: into(rules.formulas, rule.rule) }))(form);
      case "choices":
        return ruled(() => ({ choices: into(rules.choices, rule.rule) }))(form);
      case "numbers":
        return ruled(() => ({ numbers: into(rules.numbers, rule.rule) }))(form);
      case "steps":
        return ofSteps(rule.when, (steps) => [...steps, asked(rules, rule.rule)])(form);
      case "between":
        return form;
    }
  };

/** The key of the check that says the same already. */
export const sameCheck = (form: Form, { rule }: RuleOf<"checks">): string | undefined => {
  const same = rulesOf(form).checks.find((each) => JSON.stringify(each.rule) === JSON.stringify(rule.rule));
  return same && `check ${same.id}`;
};

/** A step whose question has an id of its own. */
function asked(rules: FormRules, step: FormStep): FormStep {
  const { action } = step;
  const taken = rules.steps.flatMap((each) =>
    each.steps.flatMap((one) => (one.action.kind === "ask" ? [one.action.id] : [])),
  );
  return { ...step, action: action.kind === "ask" ? { ...action, id: free("question", taken) } : action };
}

/** The key that the last rule made of that has in the form. */
export function keyOf(form: Form, rule: Rule): string {
  const rules = rulesOf(form);
  switch (rule.part) {
    case "checks":
      return `check ${rules.checks.at(-1)?.id}`;
    case "fills":
      return `fill ${rules.fills.at(-1)?.id}`;
    case "formulas":
      return `formula ${placeOfSame(rules, rule)}`;
    case "choices":
      return `list ${placeOfSame(rules, rule)}`;
    case "numbers":
      return `number ${placeOfSame(rules, rule)}`;
    case "steps":
      return `step ${stepsAt(rules, rule.when).length - 1} ${rule.when}`;
    case "between":
      return "between";
  }
}
