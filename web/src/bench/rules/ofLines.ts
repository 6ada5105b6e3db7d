import type { Form } from "../../api/client";
import { type FormLines, linesOf } from "../../entry/sheet";
import { change } from "../edits";
import { type BenchDoings, NOTHING_TOLD } from "../useBench";
import { rulesOf } from "./edits";

/** The columns of lines as if they were a form of their own. */
const formOfLines = (form: Form, item: FormLines): Form => ({
  ...form,
  title: `each line of ${item.label}`,
  table: item.table,
  sections: [{ title: "", columns: 1, items: item.items }],
  rules: item.rules,
});

/** The lines of that id on a form, which may have been changed since. */
const linesIn = (form: Form, id: string) => linesOf(form).find((each) => each.id === id);

/** The Bench for the rules of each line of those on the form. */
export function ofLines(bench: BenchDoings, item: FormLines): BenchDoings {
  const form = formOfLines(bench.form, item);
  return {
    ...bench,
    form,
    lines: item.id,
    told: bench.state?.lines[item.id] ?? NOTHING_TOLD,
    latest: () => {
      const latest = bench.latest();
      return formOfLines(latest, linesIn(latest, item.id) ?? item);
    },
    edit: (edit) =>
      bench.edit((whole) => {
        const lines = linesIn(whole, item.id);
        return lines ? change([item.id], { rules: rulesOf(edit(formOfLines(whole, lines))) })(whole) : whole;
      }),
  };
}
