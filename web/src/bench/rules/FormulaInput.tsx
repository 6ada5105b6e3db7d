import { lazy, Suspense, useEffect, useState } from "react";
import { answered, api, type Table } from "../../api/client";
import { useSubscribed } from "../../model/useSubscribed";
import type { BenchDoings } from "../useBench";

const FeelField = lazy(() => import("./FeelField"));
const TRY_AFTER = 250;

interface Props {
  name: string;
  value: string;
  set: (value: string) => void;
  bench: BenchDoings;
  table: Table;
  /** What stands for an empty formula. */
  none?: string;
}

/** A formula, with what it comes to for the draft in the form right now, or why it comes to nothing. */
export function FormulaInput({ name, value, set, bench, table, none = "no formula" }: Props) {
  const { entry, form, lines } = bench;
  const typed = useSubscribed(entry).typed;
  const [came, setCame] = useState<{ words: string; fault: string | null }>();
  useEffect(() => {
    setCame(undefined);
    if (!value.trim()) return;
    const timer = setTimeout(() => {
      answered(
        api.POST("/api/forms/{form}/bench/formula", {
          params: { path: { form: form.id }, query: { lines } },
          // No line of the draft is the one that is meant.
          body: { formula: value, draft: { values: lines ? {} : typed } },
        }),
      )
        .then(setCame)
        .catch(() => {});
    }, TRY_AFTER);
    return () => clearTimeout(timer);
  }, [value, typed, form.id, lines]);
  return (
    <div className="formula">
      <Suspense fallback={<div className="feel">{value}</div>}>
        <FeelField name={name} value={value} set={set} table={table} />
      </Suspense>
      <p className={`say ${came?.fault ? "stop" : "read"}`} role="status">
        {came?.fault ??
          (came ? (came.words ? `now: ${came.words}` : "now: nothing") : value.trim() ? "" : none)}
      </p>
    </div>
  );
}
