import { useMemo } from "react";
import type { DeskForm, FormField, Ruled, SeenTable } from "../api/client";
import { FormView } from "../form/FormView";
import type { Batch, BatchState } from "./batch";

interface Props {
  form: DeskForm;
  table: SeenTable;
  fields: FormField[];
  batch: Batch;
  state: BatchState;
  ruled: Ruled;
}

const NO_BUTTON = { can: () => false, press: () => {} };

/** What is the same on every line, keyed once above them. */
export function Same({ form, table, fields, batch, state, ruled }: Props) {
  const part = useMemo(
    () => ({ ...form, sections: [{ title: "The same on every line", columns: 4, items: fields }] }),
    [form, fields],
  );
  if (fields.length === 0) return null;
  const { same, readSame } = state;
  return (
    <div className="same">
      <FormView
        form={part}
        columns={table.columns}
        presses={NO_BUTTON}
        entry={{
          typed: same,
          was: {},
          values: readSame?.values ?? {},
          readings: readSame?.readings ?? {},
          fields: readSame?.fields,
          ruled,
          findings: (readSame?.findings ?? []).filter(({ field }) => same[field]?.trim()),
          list: (column, typed) => batch.list(undefined, column, typed),
          type: batch.typeSame,
          leave: () => {},
        }}
      />
    </div>
  );
}
