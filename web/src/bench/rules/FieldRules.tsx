import type { FormField } from "../../api/client";
import type { BenchDoings } from "../useBench";
import { Said } from "./Said";

interface Props {
  bench: BenchDoings;
  field: FormField;
  /** Goes to a rule, or to where one is typed. */
  show: (rule: string | undefined) => void;
}

/** The rules that speak of one field. */
export function FieldRules({ bench, field, show }: Props) {
  const rules = bench.told.filter(({ columns }) => columns.includes(field.column));
  return (
    <>
      {rules.length === 0 && <p className="say">No rule speaks of it.</p>}
      {rules.map((rule) => (
        <button key={rule.key} type="button" className="rule-of-field" onClick={() => show(rule.key)}>
          <Said rule={rule} threads={bench.threads} />
        </button>
      ))}
      <button type="button" className="btn small justify-self-start" onClick={() => show(undefined)}>
        Type a rule
      </button>
    </>
  );
}
