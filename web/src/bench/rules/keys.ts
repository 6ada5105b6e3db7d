import type { Form, FormRules, FormStep, Schemas } from "../../api/client";
import type { Edit } from "../edits";
import { at, free, ruled, rulesOf } from "./edits";

/** A rule as a form document has it, with the member of the rules that it belongs in and, for a step, its place. */
export interface Rule {
  part: string;
  when?: string | null;
  rule: Record<string, unknown>;
}

/** What a key of the Bench's state names: its part, and its id or its place in that part. */
function named(key: string): { part: keyof FormRules; id: string; when: string } {
  const [kind = "", id = "", ...when] = key.split(" ");
  const part = PARTS[kind] ?? "checks";
  return part === "steps"
    ? { part, id, when: when.join(" ") }
    : { part, id: key.slice(kind.length + 1), when: "" };
}

const PARTS: Record<string, keyof FormRules> = {
  check: "checks",
  fill: "fills",
  formula: "formulas",
  list: "choices",
  number: "numbers",
  step: "steps",
};

const loose = (rule: object) => rule as Record<string, unknown>;
const stepsAt = (rules: FormRules, when: string): FormStep[] =>
  rules.steps.find((each) => each.when === when)?.steps ?? [];

/** The rule of that key; none where it is gone, or is kept by the table. */
export function ruleAt(form: Form, key: string): Rule | undefined {
  const rules = rulesOf(form);
  const { part, id, when } = named(key);
  if (key.startsWith("between ")) return undefined;
  const rule =
    part === "steps"
      ? stepsAt(rules, when)[Number(id)]
      : part === "checks" || part === "fills"
        ? rules[part].find((each) => each.id === id)
        : rules[part][Number(id)];
  return rule && { part, rule: loose(rule), ...(part === "steps" ? { when } : {}) };
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

/** The list of a part changed where the key says, or the rule taken out where nothing comes of it. */
function changed(key: string, change: (rule: Record<string, unknown>) => object | undefined): Edit {
  const { part, id, when } = named(key);
  if (part === "steps")
    return ofSteps(when, (steps) => at(steps, Number(id), (each) => change(loose(each)) as FormStep));
  return ruled((rules) => {
    const list = rules[part] as { id?: string }[];
    const place =
      part === "checks" || part === "fills" ? list.findIndex((each) => each.id === id) : Number(id);
    return { [part]: at(list, place, (each) => change(loose(each)) as typeof each) };
  });
}

/** What a rule is called stays when the rest of it is another. */
function keeping(before: Record<string, unknown>, rule: Record<string, unknown>) {
  const [was, is] = [before.action, rule.action] as Record<string, unknown>[];
  if (was?.kind === "ask" && is?.kind === "ask") return { ...rule, action: { ...is, id: was.id } };
  return "id" in rule ? { ...rule, id: before.id } : rule;
}

/** The rule of that key made another one of its part. */
export const put = (key: string, rule: Record<string, unknown>): Edit =>
  changed(key, (before) => keeping(before, rule));

export const takeAway = (key: string): Edit => changed(key, () => undefined);

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

/** Of which rule there can be only one: a new one takes its place. */
const sameAs: Partial<
  Record<string, (one: Record<string, unknown>, other: Record<string, unknown>) => boolean>
> = {
  formulas: (one, other) => one.target === other.target && one.what === other.what,
  choices: (one, other) => one.column === other.column,
  numbers: (one, other) => one.column === other.column,
};

/** The form with one more rule. */
export const add =
  ({ part, when, rule }: Rule): Edit =>
  (form) => {
    const rules = rulesOf(form);
    if (part === "steps") return ofSteps(when ?? "", (steps) => [...steps, asked(rules, rule)])(form);
    const list = rules[part as keyof FormRules] as unknown as Record<string, unknown>[];
    const same = sameAs[part];
    const place = same ? list.findIndex((each) => same(each, rule)) : -1;
    const fresh = "id" in rule ? { ...rule, id: free(KINDS[part] ?? part, ids(list)) } : rule;
    const next = place < 0 ? [...list, fresh] : list.map((each, i) => (i === place ? fresh : each));
    return ruled(() => ({ [part]: next }) as Partial<FormRules>)(form);
  };

const KINDS: Record<string, string> = { checks: "check", fills: "fill" };
const ids = (list: Record<string, unknown>[]) => list.map((each) => String(each.id));

/** A step whose question has an id of its own. */
function asked(rules: FormRules, step: Record<string, unknown>): FormStep {
  const action = step.action as Schemas["FormStepAction"];
  const taken = rules.steps.flatMap((each) =>
    each.steps.flatMap((one) => (one.action.kind === "ask" ? [one.action.id] : [])),
  );
  return {
    ...step,
    action: action.kind === "ask" ? { ...action, id: free("question", taken) } : action,
  } as FormStep;
}

/** The key that the last rule made of that has in the form. */
export function keyOf(form: Form, { part, when, rule }: Rule): string {
  const rules = rulesOf(form);
  if (part === "steps") return `step ${stepsAt(rules, when ?? "").length - 1} ${when}`;
  const list = rules[part as keyof FormRules] as unknown as Record<string, unknown>[];
  if (part === "checks" || part === "fills") return `${KINDS[part]} ${list.at(-1)?.id}`;
  const same = sameAs[part];
  const kind = Object.entries(PARTS).find(([, each]) => each === part)?.[0];
  return `${kind} ${same ? list.findIndex((each) => same(each, rule)) : list.length - 1}`;
}
