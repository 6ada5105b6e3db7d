import type { FormDerived, FormField, Table } from "../../api/client";
import { Row, Writing } from "../settings";
import type { BenchDoings } from "../useBench";
import { derived, ruled, rulesOf } from "./edits";
import { FormulaInput } from "./FormulaInput";

interface Props {
  bench: BenchDoings;
  table: Table;
  field: FormField;
  show: () => void;
}

const FORMULAS: [FormDerived["what"], string, string][] = [
  ["calculated", "Worked out", "typed, not worked out"],
  ["default", "Begins as", "empty"],
  ["shown", "Shown if", "always"],
  ["locked", "Locked if", "never"],
  ["required", "Needed if", "as it is set"],
];

/** What rules say of one field. */
export function FieldRules({ bench, table, field, show }: Props) {
  const rules = rulesOf(bench.form);
  const numbering = rules.numbers.find((each) => each.column === field.column);
  const checks = rules.checks.filter((check) => JSON.stringify(check.rule).includes(`"${field.column}"`));
  return (
    <>
      {FORMULAS.map(([what, name, none]) => (
        <Row key={what} name={name}>
          <FormulaInput
            name={`${name}, formula of ${field.label}`}
            value={
              rules.formulas.find((each) => each.target === field.column && each.what === what)?.formula ?? ""
            }
            none={none}
            set={(formula) => bench.edit(derived(field.column, what, formula))}
            bench={bench}
            table={table}
          />
        </Row>
      ))}
      {table.columns.find((column) => column.name === field.column)?.type === "text" && (
        <Writing
          name="Running number"
          value={numbering?.pattern ?? ""}
          none="none; such as S-{year}-{0000}"
          set={(pattern) =>
            bench.edit(
              ruled(({ numbers }) => {
                const others = numbers.filter((each) => each.column !== field.column);
                return { numbers: pattern ? [...others, { column: field.column, pattern }] : others };
              }),
            )
          }
        />
      )}
      <Row name="Checks">
        <span className="grid gap-1">
          {checks.map((check) => (
            <span key={check.id} className="say">
              {check.asks ? "asks" : "stops"}: {bench.words.checks[check.id]}
            </span>
          ))}
          <button type="button" className="btn small justify-self-start" onClick={show}>
            All the rules
          </button>
        </span>
      </Row>
    </>
  );
}
