import { useQuery } from "@tanstack/react-query";
import { ArrowDown, ArrowUp, X } from "lucide-react";
import { useState } from "react";
import type { FormStep, FormStepAction, Schemas, Table } from "../../api/client";
import { formsQuery } from "../../api/queries";
import { fieldsOf } from "../../form/items";
import { ACTIONS, Choice, Row, Writing } from "../settings";
import type { BenchDoings } from "../useBench";
import { at, free, ruled, rulesOf } from "./edits";
import { FormulaInput } from "./FormulaInput";
import { ColumnSelect, TableSelect, useColumns } from "./Ties";

type Setting = Schemas["FormSetting"];
type Kind = FormStepAction["kind"];

const KINDS: Record<Kind, string> = {
  press: "do what a button does",
  "set-field": "set a field",
  "add-row": "add a row to another table",
  "change-row": "change the matching row of a table",
  send: "send a message",
  ask: "ask",
  say: "say something",
  open: "open a form",
};

const { open: _open, steps: _steps, ...PRESSES } = ACTIONS;

interface Props {
  bench: BenchDoings;
  table: Table;
  /** "saved", "changed", or a button by its id. */
  when: string;
}

/** A list of steps, each a sentence, taken one after the other. */
export function StepsEditor({ bench, table, when }: Props) {
  const all = rulesOf(bench.form).steps;
  /** The one that was just added, which is open. */
  const [fresh, setFresh] = useState<number>();
  const steps = all.find((each) => each.when === when)?.steps ?? [];
  const set = (next: FormStep[]) =>
    bench.edit(
      ruled((rules) => {
        const others = rules.steps.filter((each) => each.when !== when);
        return { steps: next.length > 0 ? [...others, { when, steps: next }] : others };
      }),
    );
  const asks = all.flatMap((each) =>
    each.steps.flatMap(({ action }) => (action.kind === "ask" ? [action.id] : [])),
  );
  const first = fieldsOf(bench.form)[0]?.column ?? "";
  const begun = (kind: Kind): FormStepAction => {
    switch (kind) {
      case "press":
        return { kind, action: "save" };
      case "open":
        return { kind, form: "", values: [] };
      case "set-field":
        return { kind, value: { column: first, formula: "" } };
      case "add-row":
        return { kind, table: "", values: [] };
      case "change-row":
        return { kind, table: "", where: [], values: [] };
      case "send":
        return { kind, to: "", subject: "", text: "" };
      case "say":
        return { kind, text: "" };
      case "ask":
        return { kind, id: free("question", asks), text: "", usual: "no" };
    }
  };
  const move = (place: number, by: number) => {
    const next = [...steps];
    const [one] = next.splice(place, 1);
    if (one) next.splice(place + by, 0, one);
    set(next);
  };
  return (
    <div className="step-list">
      {steps.map((step, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: steps have no names of their own, only their order
        <details key={place} className="step-one" open={place === fresh || undefined}>
          <summary>
            <span className="font-mono text-soft">{place + 1}</span> {bench.words.steps[when]?.[place]}
            {step.onlyIf && <span className="text-soft"> only if {step.onlyIf}</span>}
          </summary>
          <div className="grid gap-2">
            <Choice
              name="Do"
              value={step.action.kind}
              choices={KINDS}
              set={(kind) => set(at(steps, place, (each) => ({ ...each, action: begun(kind) })))}
            />
            <ActionEditor
              bench={bench}
              table={table}
              action={step.action}
              set={(action) => set(at(steps, place, (each) => ({ ...each, action })))}
            />
            <Row name="Only if">
              <FormulaInput
                name={`Only if, step ${place + 1}`}
                value={step.onlyIf}
                none="always"
                set={(onlyIf) => set(at(steps, place, (each) => ({ ...each, onlyIf })))}
                bench={bench}
                table={table}
              />
            </Row>
            <span className="flex gap-2">
              <button
                type="button"
                className="btn small"
                disabled={place === 0}
                onClick={() => move(place, -1)}
              >
                <ArrowUp size={14} aria-hidden="true" /> Up
              </button>
              <button
                type="button"
                className="btn small"
                disabled={place === steps.length - 1}
                onClick={() => move(place, 1)}
              >
                <ArrowDown size={14} aria-hidden="true" /> Down
              </button>
              <button
                type="button"
                className="btn small"
                onClick={() => set(at(steps, place, () => undefined))}
              >
                <X size={14} aria-hidden="true" /> Take it away
              </button>
            </span>
          </div>
        </details>
      ))}
      <button
        type="button"
        className="btn small justify-self-start"
        onClick={() => {
          setFresh(steps.length);
          set([...steps, { onlyIf: "", action: begun(steps.length === 0 ? "say" : "press") }]);
        }}
      >
        Add a step
      </button>
    </div>
  );
}

interface ActionProps {
  bench: BenchDoings;
  table: Table;
  action: FormStepAction;
  set: (action: FormStepAction) => void;
}

function ActionEditor({ bench, table, action, set }: ActionProps) {
  const forms = useQuery(formsQuery).data ?? [];
  switch (action.kind) {
    case "press":
      return (
        <Choice
          name="Button"
          value={action.action}
          choices={PRESSES}
          set={(press) => set({ ...action, action: press })}
        />
      );
    case "open":
      return (
        <>
          <Choice
            name="Form"
            value={action.form}
            choices={Object.fromEntries([
              ["", "choose a form"],
              ...forms.map((form) => [form.id, form.title]),
            ])}
            set={(form) => set({ ...action, form })}
          />
          <Settings
            name="Begins with"
            bench={bench}
            table={table}
            of={forms.find((form) => form.id === action.form)?.table ?? ""}
            settings={action.values}
            set={(values) => set({ ...action, values })}
          />
        </>
      );
    case "set-field":
      return (
        <Settings
          name="Field"
          bench={bench}
          table={table}
          of={table.name}
          settings={[action.value]}
          set={([value]) => value && set({ ...action, value })}
          one
        />
      );
    case "add-row":
    case "change-row":
      return (
        <>
          <Row name="Table">
            <TableSelect name="Table" value={action.table} set={(to) => set({ ...action, table: to })} />
          </Row>
          {action.kind === "change-row" && (
            <Settings
              name="The row where"
              bench={bench}
              table={table}
              of={action.table}
              settings={action.where}
              set={(where) => set({ ...action, where })}
            />
          )}
          <Settings
            name="Set"
            bench={bench}
            table={table}
            of={action.table}
            settings={action.values}
            set={(values) => set({ ...action, values })}
          />
        </>
      );
    case "send":
      return (
        <>
          <Writing name="To" value={action.to} none="such as {email}" set={(to) => set({ ...action, to })} />
          <Writing name="Subject" value={action.subject} set={(subject) => set({ ...action, subject })} />
          <Row name="Text">
            <textarea
              className="entry small tall"
              aria-label="Text of the message"
              rows={4}
              value={action.text}
              maxLength={20_000}
              onChange={(e) => set({ ...action, text: e.target.value })}
            />
          </Row>
        </>
      );
    case "say":
      return (
        <Writing
          name="Words"
          value={action.text}
          none="{site_code} stands for a value"
          set={(text) => set({ ...action, text })}
        />
      );
    case "ask":
      return (
        <>
          <Writing
            name="Question"
            value={action.text}
            none="Send a confirmation?"
            set={(text) => set({ ...action, text })}
          />
          <Choice
            name="Enter answers"
            value={action.usual}
            choices={{ yes: "yes", no: "no", cancel: "cancel" }}
            set={(usual) => set({ ...action, usual })}
          />
          <p className="say">A no leaves out the next step; cancel gives up, and nothing is saved.</p>
        </>
      );
  }
}

interface SettingsProps {
  name: string;
  bench: BenchDoings;
  table: Table;
  /** The table whose columns are set. */
  of: string;
  settings: Setting[];
  set: (settings: Setting[]) => void;
  one?: boolean;
}

/** Which columns are set to what. */
function Settings({ name, bench, table, of, settings, set, one }: SettingsProps) {
  const columns = useColumns(of);
  return (
    <fieldset className="ties" aria-label={name}>
      <legend>{name}</legend>
      {settings.map((setting, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: they have no names of their own, only their order
        <div key={place} className="tie">
          <ColumnSelect
            columns={columns}
            name={`${name}, column ${place + 1}`}
            value={setting.column}
            set={(column) => set(at(settings, place, (each) => ({ ...each, column })))}
          />
          <span className="text-soft">to</span>
          <FormulaInput
            name={`${name}, formula ${place + 1}`}
            value={setting.formula}
            set={(formula) => set(at(settings, place, (each) => ({ ...each, formula })))}
            bench={bench}
            table={table}
          />
          {!one && (
            <button
              type="button"
              className="btn quiet icon"
              aria-label={`Take ${name} ${place + 1} away`}
              onClick={() => set(at(settings, place, () => undefined))}
            >
              <X size={14} aria-hidden="true" />
            </button>
          )}
        </div>
      ))}
      {!one && (
        <button
          type="button"
          className="btn small justify-self-start"
          disabled={!of}
          onClick={() => set([...settings, { column: columns[0]?.name ?? "", formula: "" }])}
        >
          Add one
        </button>
      )}
    </fieldset>
  );
}
