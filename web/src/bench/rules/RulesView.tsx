import { Plus } from "lucide-react";
import { type ReactNode, useState } from "react";
import type { FormRules, Table } from "../../api/client";
import { fieldsOf, isButton, itemsOf } from "../../form/items";
import { Cover } from "../../ui/Cover";
import type { BenchDoings } from "../useBench";
import { CheckEditor, ruleOf } from "./CheckEditor";
import { Constraints } from "./Constraints";
import { at, free, ruled, rulesOf } from "./edits";
import { FillEditor, ListEditor } from "./FillEditor";
import { StepsEditor } from "./StepsEditor";

interface Props {
  bench: BenchDoings;
  table: Table;
  close: () => void;
  /** The rule that is shown first. */
  first?: string;
}

/** Everything that the form declares about entries: at the left each rule in a sentence, at the right the one that is changed. */
export function RulesView({ bench, table, close, first: asked }: Props) {
  const { form, edit, lines } = bench;
  const rules = rulesOf(form);
  const [shown, setShown] = useState<string>(
    () => asked ?? (rules.checks[0] ? `check ${rules.checks[0].id}` : lines ? "" : "between"),
  );
  const first = fieldsOf(form)[0]?.column ?? "";
  const change = <K extends keyof FormRules>(name: K, list: FormRules[K]) =>
    edit(ruled(() => ({ [name]: list }) as Partial<FormRules>));
  const add = {
    check: () => {
      const id = free(
        "check",
        rules.checks.map((each) => each.id),
      );
      change("checks", [
        ...rules.checks,
        { id, asks: false, stays: false, message: "", rule: ruleOf("range", first) },
      ]);
      setShown(`check ${id}`);
    },
    fill: () => {
      const id = free(
        "fill",
        rules.fills.map((each) => each.id),
      );
      change("fills", [
        ...rules.fills,
        {
          id,
          table: table.name,
          keys: [{ column: first, source: table.columns[0]?.name ?? "" }],
          brings: [],
          none: "ask",
          several: "choose",
          writesBack: false,
        },
      ]);
      setShown(`fill ${id}`);
    },
    list: () => {
      change("choices", [
        ...rules.choices,
        {
          column: first,
          table: table.name,
          source: table.columns[0]?.name ?? "",
          shown: "",
          when: [],
          open: false,
        },
      ]);
      setShown(`list ${rules.choices.length}`);
    },
  };
  const buttons = itemsOf(form).filter((item) => isButton(item) && item.action === "steps");
  const places = [
    { when: "saved", name: "After a new entry is saved" },
    { when: "changed", name: "After a change is saved" },
    ...buttons.map((item) => ({
      when: item.id,
      name: `When ${"label" in item ? item.label : item.id} is pressed`,
    })),
  ];
  const line = (key: string, words: ReactNode) => (
    <button
      key={key}
      type="button"
      className="rule-line"
      aria-pressed={shown === key}
      onClick={() => setShown(key)}
    >
      {words}
    </button>
  );
  const check = rules.checks.findIndex((each) => `check ${each.id}` === shown);
  const fill = rules.fills.findIndex((each) => `fill ${each.id}` === shown);
  const list = shown.startsWith("list ") ? Number(shown.slice(5)) : -1;
  const steps = places.find((each) => `steps ${each.when}` === shown);
  const [oneCheck, oneFill, oneList] = [rules.checks[check], rules.fills[fill], rules.choices[list]];
  const away = (name: string, remove: () => void) => (
    <button type="button" className="btn small danger justify-self-start" onClick={remove}>
      Take {name} away
    </button>
  );
  return (
    <Cover name="Rules" close={close} wide>
      <div className="rules">
        <nav aria-label="Rules of the form">
          <h2>Rules of {form.title}</h2>
          <Group name="Checks" add={add.check}>
            {rules.checks.map((each) =>
              line(
                `check ${each.id}`,
                <>
                  <b className={each.asks ? "text-weld" : "text-madder"}>{each.asks ? "asks" : "stops"}</b>{" "}
                  unless {bench.words.checks[each.id] ?? "…"}
                </>,
              ),
            )}
          </Group>
          {!lines && <Group name="Between records">{line("between", "What holds in the whole table")}</Group>}
          <Group name="Fills" add={add.fill}>
            {rules.fills.map((each) => line(`fill ${each.id}`, bench.words.fills[each.id] ?? "…"))}
          </Group>
          <Group name="Choice lists" add={add.list}>
            {rules.choices.map((_, place) => line(`list ${place}`, bench.words.lists[place] ?? "…"))}
          </Group>
          {!lines && (
            <Group name="Steps">
              {places.map((each) => {
                const count = rules.steps.find(({ when }) => when === each.when)?.steps.length ?? 0;
                return line(
                  `steps ${each.when}`,
                  `${each.name}: ${count === 0 ? "nothing" : count === 1 ? "1 step" : `${count} steps`}`,
                );
              })}
            </Group>
          )}
        </nav>
        <section aria-label="The rule" key={shown}>
          {oneCheck && (
            <>
              <CheckEditor
                bench={bench}
                table={table}
                check={oneCheck}
                set={(changed) =>
                  change(
                    "checks",
                    at(rules.checks, check, () => changed),
                  )
                }
              />
              {away("the check", () =>
                change(
                  "checks",
                  at(rules.checks, check, () => undefined),
                ),
              )}
            </>
          )}
          {oneFill && (
            <>
              <FillEditor
                form={form}
                fill={oneFill}
                set={(changed) =>
                  change(
                    "fills",
                    at(rules.fills, fill, () => changed),
                  )
                }
              />
              {away("the fill", () =>
                change(
                  "fills",
                  at(rules.fills, fill, () => undefined),
                ),
              )}
            </>
          )}
          {oneList && (
            <>
              <ListEditor
                form={form}
                list={oneList}
                set={(changed) =>
                  change(
                    "choices",
                    at(rules.choices, list, () => changed),
                  )
                }
              />
              {away("the list", () =>
                change(
                  "choices",
                  at(rules.choices, list, () => undefined),
                ),
              )}
            </>
          )}
          {steps && (
            <>
              <h3>{steps.name}</h3>
              <StepsEditor bench={bench} table={table} when={steps.when} />
            </>
          )}
          {shown === "between" && <Constraints table={table} />}
          <span className="flex-1" />
          <button type="button" className="btn justify-self-start" onClick={close}>
            Close <kbd>Esc</kbd>
          </button>
        </section>
      </div>
    </Cover>
  );
}

function Group({ name, add, children }: { name: string; add?: () => void; children: ReactNode }) {
  return (
    <section aria-label={name}>
      <h3>
        {name}
        {add && (
          <button type="button" className="press" aria-label={`Add to ${name}`} onClick={add}>
            <Plus size={12} aria-hidden="true" /> Add
          </button>
        )}
      </h3>
      {children}
    </section>
  );
}
