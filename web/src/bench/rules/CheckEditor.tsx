import type { FormCheck, FormCheckRule, Table } from "../../api/client";
import { fieldsOf } from "../../form/items";
import { Choice, Flag, Row, Writing } from "../settings";
import type { BenchDoings } from "../useBench";
import { FormulaInput } from "./FormulaInput";
import { Look } from "./Look";
import { PatternTry } from "./PatternTry";
import { FieldSelect } from "./Ties";

type Kind = FormCheckRule["kind"];

export const KINDS: Record<Kind, string> = {
  "any-of": "at least one of several",
  range: "a range",
  length: "a length",
  matches: "a pattern",
  "one-of": "one of a list",
  needs: "one needs another",
  holds: "a formula holds",
  complete: "complete",
};

/** Patterns in plain language. */
const PRESETS: Record<string, string> = {
  "letters only": "\\pL+",
  "digits only": "[0-9]+",
  "a code such as QB-03": "[A-Z]{2}-[0-9]{2}",
  "an e-mail address": "[^@\\s]+@[^@\\s]+\\.[^@\\s]+",
  "a grid reference such as WQ 1234 5678": "[A-Z]{2} [0-9]{4} [0-9]{4}",
};

/** A rule of that kind, on the same column where it can be. */
export function ruleOf(kind: Kind, column: string): FormCheckRule {
  switch (kind) {
    case "any-of":
      return { kind, columns: [column] };
    case "range":
      return { kind, column, from: "", to: "" };
    case "length":
      return { kind, column, from: 1, to: 0 };
    case "matches":
      return { kind, column, pattern: "" };
    case "one-of":
      return { kind, column, list: [] };
    case "needs":
      return { kind, column, other: column };
    case "holds":
      return { kind, column, formula: "" };
    case "complete":
      return { kind, columns: [] };
  }
}

interface Props {
  bench: BenchDoings;
  table: Table;
  check: FormCheck;
  set: (check: FormCheck) => void;
}

/** A check: what must be so, whether it stops or asks, and in which words. */
export function CheckEditor({ bench, table, check, set }: Props) {
  const { rule } = check;
  const column = "column" in rule ? rule.column : (rule.columns[0] ?? fieldsOf(bench.form)[0]?.column ?? "");
  const change = (patch: Partial<FormCheckRule>) =>
    set({ ...check, rule: { ...rule, ...patch } as FormCheckRule });
  return (
    <div className="grid gap-2">
      <Choice
        name="What must be so"
        value={rule.kind}
        choices={KINDS}
        set={(kind) => set({ ...check, rule: ruleOf(kind, column) })}
      />
      {"column" in rule && (
        <Row name={rule.kind === "needs" ? "When this is filled" : "Field"}>
          <FieldSelect
            form={bench.form}
            name="Field"
            value={rule.column}
            set={(to) => change({ column: to })}
          />
        </Row>
      )}
      <Parts bench={bench} table={table} rule={rule} change={change} />
      {rule.kind !== "complete" && (
        <Choice
          name="An entry that breaks it"
          value={check.asks ? "asks" : "stops"}
          choices={{ stops: "is stopped", asks: "is asked about" }}
          set={(how) => set({ ...check, asks: how === "asks" })}
        />
      )}
      {!check.asks && "column" in rule && (
        <Flag
          name="The cursor stays until it is right"
          value={check.stays}
          set={(stays) => set({ ...check, stays })}
        />
      )}
      <Writing
        name="In these words"
        value={check.message}
        none="made from the rule; {ph} stands for a value"
        set={(message) => set({ ...check, message })}
      />
      <Look bench={bench} table={table} check={check} />
    </div>
  );
}

function Parts({
  bench,
  table,
  rule,
  change,
}: {
  bench: BenchDoings;
  table: Table;
  rule: FormCheckRule;
  change: (patch: Partial<FormCheckRule>) => void;
}) {
  switch (rule.kind) {
    case "range":
      return (
        <>
          <Writing name="From" value={rule.from} none="no bound" set={(from) => change({ from })} />
          <Writing name="To" value={rule.to} none="no bound" set={(to) => change({ to })} />
        </>
      );
    case "length":
      return (
        <>
          <Writing
            name="From"
            value={String(rule.from)}
            set={(from) => change({ from: Number(from) || 0 })}
          />
          <Writing
            name="To"
            value={rule.to ? String(rule.to) : ""}
            none="no bound"
            set={(to) => change({ to: Number(to) || 0 })}
          />
        </>
      );
    case "matches":
      return (
        <>
          <Choice
            name="Written as"
            value={Object.entries(PRESETS).find(([, pattern]) => pattern === rule.pattern)?.[0] ?? ""}
            choices={{
              "": "a pattern of its own",
              ...Object.fromEntries(Object.keys(PRESETS).map((each) => [each, each])),
            }}
            set={(preset) => preset && change({ pattern: PRESETS[preset] })}
          />
          <Writing
            name="Pattern"
            value={rule.pattern}
            none="such as [A-Z]{2}-[0-9]{2}"
            set={(pattern) => change({ pattern })}
          />
          <PatternTry form={bench.form.id} pattern={rule.pattern} />
        </>
      );
    case "one-of":
      return (
        <Writing
          name="List"
          value={rule.list.join(", ")}
          none="dry, rain, snow"
          set={(list) => change({ list: list.split(/,\s*/).filter(Boolean) })}
        />
      );
    case "needs":
      return (
        <Row name="This is needed too">
          <FieldSelect
            form={bench.form}
            name="Other field"
            value={rule.other}
            set={(other) => change({ other })}
          />
        </Row>
      );
    case "holds":
      return (
        <Row name="Formula">
          <FormulaInput
            name="Formula that must hold"
            value={rule.formula}
            none="such as to_at > from_at"
            set={(formula) => change({ formula })}
            bench={bench}
            table={table}
          />
        </Row>
      );
    default:
      return (
        <Row name="Fields">
          <div className="ticks">
            {fieldsOf(bench.form).map((field) => (
              <label key={field.id}>
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  checked={rule.columns.includes(field.column)}
                  onChange={(e) =>
                    change({
                      columns: e.target.checked
                        ? [...rule.columns, field.column]
                        : rule.columns.filter((each) => each !== field.column),
                    })
                  }
                />
                {field.label}
              </label>
            ))}
          </div>
        </Row>
      );
  }
}
