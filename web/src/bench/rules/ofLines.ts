import type { FormLines } from "../../entry/sheet";
import { change } from "../edits";
import { type BenchDoings, NO_WORDS } from "../useBench";
import { rulesOf } from "./edits";

/** The Bench for the rules of each line of those on the form, as if their columns were a form of their own. */
export function ofLines(bench: BenchDoings, item: FormLines): BenchDoings {
  const form = {
    ...bench.form,
    title: `each line of ${item.label}`,
    table: item.table,
    sections: [{ title: "", columns: 1, items: item.items }],
    rules: item.rules,
  };
  return {
    ...bench,
    form,
    lines: item.id,
    words: bench.state?.lines[item.id] ?? NO_WORDS,
    edit: (edit) => bench.edit(change([item.id], { rules: rulesOf(edit(form)) })),
  };
}
