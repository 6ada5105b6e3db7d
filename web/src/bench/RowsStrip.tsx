import { useDroppable } from "@dnd-kit/core";
import { useQuery } from "@tanstack/react-query";
import { Pencil } from "lucide-react";
import { memo, useEffect, useMemo, useSyncExternalStore } from "react";
import { answered, api, type Column, type FormField, type StoredRecord, type Table } from "../api/client";
import { fieldsOf } from "../form/items";
import { Stored } from "../rows/Stored";
import { shown } from "../rows/shown";
import type { Over } from "./over";
import { columnsInOrder, light } from "./threads";
import { type BenchDoings, useLatest } from "./useBench";

const LAST = 3;

interface Props {
  bench: BenchDoings;
  table: Table;
  show: (over: Over) => void;
}

/** The table's last rows and the next free row, which fills in as one types, with the values as they will be stored. */
export const RowsStrip = memo(function RowsStrip({ bench, table, show }: Props) {
  const { form, state } = bench;
  const order = [...bench.threads.keys()].join(" ");
  const columns = useMemo(() => columnsInOrder(order.split(" "), table), [order, table]);
  const latest = useLatest(bench);
  const fields = new Map(fieldsOf(form).map((field) => [field.column, field]));
  const after = Math.max(0, table.lastRow - LAST);
  const rows = useQuery({
    queryKey: ["rows", table.name, "last", after],
    queryFn: () =>
      answered(
        api.GET("/api/tables/{table}/records", {
          params: { path: { table: table.name }, query: { after: String(after), limit: LAST } },
        }),
      ),
  }).data?.records;
  const [one] = bench.items;
  const shownColumn = one?.kind === "field" ? one.column : undefined;
  useEffect(() => {
    if (!shownColumn) return;
    document
      .querySelector(`[data-column="${CSS.escape(shownColumn)}"]`)
      ?.scrollIntoView({ inline: "nearest", block: "nearest" });
  }, [shownColumn]);
  const frays = state?.frays ?? [];
  return (
    <section className="rows-strip" aria-label="Rows">
      <header>
        <b>{table.name}</b>
        <span className="text-soft">{table.rows.toLocaleString("en")} rows</span>
        <span className="flex-1" />
        <button
          type="button"
          className={`chip fray-count ${frays.some((fray) => fray.bites) ? "bites" : frays.length > 0 ? "light" : ""}`}
          disabled={frays.length === 0}
          onClick={() => show("frays")}
        >
          {frays.length === 0 ? "no frays" : frays.length === 1 ? "1 fray" : `${frays.length} frays`}
        </button>
      </header>
      <div className="strip-scroll" tabIndex={0} role="group" aria-label={`Last rows of ${table.title}`}>
        <table>
          <thead>
            <tr>
              <th scope="col">row</th>
              {columns.map((column) => (
                <Head
                  key={column.name}
                  latest={latest}
                  column={column}
                  thread={bench.threads.get(column.name)}
                  field={fields.get(column.name)}
                  on={bench.selected.includes(fields.get(column.name)?.id ?? "")}
                  show={show}
                />
              ))}
            </tr>
          </thead>
          <tbody>
            {rows?.map((record) => (
              <StoredRow key={record.id} record={record} columns={columns} />
            ))}
            <NextRow bench={bench} row={table.nextRow} columns={columns} />
          </tbody>
        </table>
      </div>
    </section>
  );
});

const StoredRow = memo(function StoredRow({ record, columns }: { record: StoredRecord; columns: Column[] }) {
  return (
    <tr>
      <th scope="row">{record.row}</th>
      {columns.map((column) => (
        <td key={column.name}>
          <Stored value={record.values[column.name]} type={column.type} />
        </td>
      ))}
    </tr>
  );
});

/** The next free row, filling in as one types. */
function NextRow({ bench, row, columns }: { bench: BenchDoings; row: number; columns: Column[] }) {
  const { entry } = bench;
  const values = useSyncExternalStore(entry.subscribe, entry.snapshot).assessment?.values ?? {};
  return (
    <tr className="next">
      <th scope="row">{row}</th>
      {columns.map((column) => {
        const text = shown(values[column.name], column.type);
        return (
          <td key={column.name} className={text ? "" : "empty"}>
            {text || "empty"}
          </td>
        );
      })}
    </tr>
  );
}

interface HeadProps {
  latest: () => BenchDoings;
  column: Column;
  thread: number | undefined;
  field: FormField | undefined;
  /** Whether its field is selected. */
  on: boolean;
  show: (over: Over) => void;
}

/** The head of a column, where its thread ends. A press goes to its field, or makes one. */
const Head = memo(function Head({ latest, column, thread, field, on, show }: HeadProps) {
  const name = column.name;
  const { setNodeRef, isOver } = useDroppable({ id: `column ${name}`, data: { column: name } });
  return (
    <th
      ref={setNodeRef}
      scope="col"
      data-column={name}
      className={`${thread === undefined ? "untied" : `thread-${thread}`} ${on ? "on" : ""} ${isOver ? "target" : ""}`}
      onMouseEnter={() => field && light(field.id, name, true)}
      onMouseLeave={() => field && light(field.id, name, false)}
      onFocus={() => field && light(field.id, name, true)}
      onBlur={() => field && light(field.id, name, false)}
    >
      <button
        type="button"
        title={field ? `${column.title}: field ${field.label}` : `Make a field for ${column.title}`}
        onClick={() => {
          if (!field) latest().tie([name]);
          else {
            latest().select(field.id);
            document.getElementById(`line-${field.id}`)?.focus();
          }
        }}
      >
        {name}
      </button>
      <button
        type="button"
        className="pencil"
        aria-label={`Change the column ${name}`}
        onClick={() => show({ column: name })}
      >
        <Pencil size={12} aria-hidden="true" />
      </button>
    </th>
  );
});
