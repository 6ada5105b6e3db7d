import type { Form, SeenTable as Table } from "../api/client";
import { FormView } from "../form/FormView";
import type { EntryView, Presses } from "../form/view";
import { widthOf } from "../model/items";

const EMPTY: EntryView = {
  typed: {},
  was: {},
  values: {},
  readings: {},
  findings: [],
  type: () => {},
  leave: () => {},
};
const STILL: Presses = { can: () => true, press: () => {} };

/** A small picture of a form, with some of its items marked. */
export function Sketch({
  form,
  table,
  marked,
  name,
  typed = {},
}: {
  form: Form;
  table: Table;
  marked: string[];
  name: string;
  /** What stands in its fields. */
  typed?: Record<string, string>;
}) {
  return (
    <figure className="sketch">
      <figcaption>{name}</figcaption>
      <div inert className="sketch-form">
        <FormView
          form={form}
          columns={table.columns}
          entry={{ ...EMPTY, typed }}
          presses={STILL}
          around={(item, inner) => (
            <div
              key={item.id}
              className={`piece ${marked.includes(item.id) ? "marked" : ""}`}
              style={{ "--w": widthOf(item), "--n": widthOf(item) } as React.CSSProperties}
            >
              {inner}
            </div>
          )}
        />
      </div>
    </figure>
  );
}
