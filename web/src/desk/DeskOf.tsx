import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Form, Table } from "../api/client";
import { useLiveTable } from "../api/live";
import { nextRowQuery } from "../api/queries";
import { FormView } from "../form/FormView";
import { RowsGrid } from "../rows/RowsGrid";
import { shownFindings } from "./entry";
import { KeysHelp } from "./KeysHelp";
import { Tray } from "./Tray";
import { useDeskKeys } from "./useDeskKeys";
import { useSitting } from "./useSitting";

/** A form open for entry: the form, the tray, the rows drawer and the strip of keys. */
export function DeskOf({ form, table }: { form: Form; table: Table }) {
  const [rows, setRows] = useState(false);
  const [keys, setKeys] = useState(false);
  const sitting = useSitting(form);
  const next = useQuery(nextRowQuery(form.id)).data?.row;
  useLiveTable(table.name);
  // The drawer takes room from below; the field one types in stays in view.
  useEffect(() => {
    if (rows) document.activeElement?.scrollIntoView({ block: "nearest" });
  }, [rows]);
  const { entry, state } = sitting;
  useDeskKeys(form, sitting, {
    rows: () => setRows(!rows),
    keys: () => setKeys(true),
    covered: keys,
  });
  const columns = form.sections
    .flatMap((section) => section.fields)
    .flatMap((field) => table.columns.find((column) => column.name === field.column) ?? []);
  return (
    <main className="desk">
      <header className="top">
        <h1>{form.title}</h1>
        <span className="chip">Everything</span>
        <span className="chip">
          writes to <span className="font-mono">{form.table}</span>
        </span>
        <span className="flex-1" />
        <span className="chip next">
          Next free row <b className="font-mono">{next ?? "…"}</b>
        </span>
      </header>
      <div className="mid">
        <FormView
          form={form}
          columns={table.columns}
          entry={{
            typed: state.typed,
            values: state.assessment?.values ?? {},
            readings: state.assessment?.readings ?? {},
            findings: shownFindings(state),
            type: (column, text) => entry.type(column, text),
            leave: (column) => entry.leave(column),
          }}
          foot={
            <div className="acts">
              <button type="button" className="btn go" onClick={sitting.save}>
                Save{next ? ` in row ${next}` : ""}{" "}
                <kbd>{form.enter === "saves" ? "Enter" : "Ctrl Enter"}</kbd>
              </button>
              <button type="button" className="btn" onClick={sitting.clear}>
                Clear
              </button>
              <span className="flex-1" />
              <button type="button" className="btn quiet" aria-expanded={rows} onClick={() => setRows(!rows)}>
                Rows <kbd>F8</kbd>
              </button>
            </div>
          }
        />
      </div>
      <Tray form={form} kept={sitting.kept} outgoing={sitting.outgoing} open={sitting.reopen} />
      {rows && (
        <div className="rows-drawer">
          <RowsGrid table={table} columns={columns} mark={sitting.kept[0]?.record.row} />
        </div>
      )}
      <footer className="foot">
        {[
          ["Tab", "next field"],
          ["Enter", form.enter === "saves" ? "save" : "next field"],
          ["Esc", "put the field back"],
          ["F8", rows ? "hide the rows" : "rows"],
          ["F1", "all keys"],
        ].map(([key, what]) => (
          <span key={key} className="key">
            <kbd>{key}</kbd> {what}
          </span>
        ))}
        <span role="status" className={`said ${sitting.said.tone}`}>
          {sitting.said.text}
        </span>
      </footer>
      {keys && <KeysHelp close={() => setKeys(false)} />}
    </main>
  );
}
