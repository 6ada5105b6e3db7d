import { useDroppable } from "@dnd-kit/core";
import { useQuery } from "@tanstack/react-query";
import { Pencil } from "lucide-react";
import { useEffect } from "react";
import { answered, api, type Column, type Table } from "../api/client";
import { fieldsOf } from "../form/items";
import { shown } from "../rows/shown";
import type { Over } from "./BenchOf";
import { columnsInOrder } from "./threads";
import type { BenchDoings } from "./useBench";

const LAST = 3;

interface Props {
  bench: BenchDoings;
  table: Table;
  show: (over: Over) => void;
}

/** The table's last rows and the next free row, which fills in as one types, with the values as they will be stored. */
export function RowsStrip({ bench, table, show }: Props) {
  const { form, state, typed } = bench;
  const columns = columnsInOrder(form, table);
  const after = Math.max(0, table.lastRow - LAST);
  const rows = useQuery({
    queryKey: ["rows", table.name, "last", after],
    queryFn: () =>
      answered(
        api.GET("/api/tables/{table}/records", {
          params: { path: { table: table.name }, query: { after, limit: LAST } },
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
  const values = typed.assessment?.values ?? {};
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
                <Head key={column.name} bench={bench} column={column} show={show} />
              ))}
            </tr>
          </thead>
          <tbody>
            {rows?.map((record) => (
              <tr key={record.id}>
                <th scope="row">{record.row}</th>
                {columns.map((column) => (
                  <td key={column.name}>{shown(record.values[column.name ?? ""], column.type)}</td>
                ))}
              </tr>
            ))}
            <tr className="next">
              <th scope="row">{table.nextRow}</th>
              {columns.map((column) => {
                const text = shown(values[column.name ?? ""], column.type);
                return (
                  <td key={column.name} className={text ? "" : "empty"}>
                    {text || "empty"}
                  </td>
                );
              })}
            </tr>
          </tbody>
        </table>
      </div>
    </section>
  );
}

/** The head of a column, where its thread ends. A press goes to its field, or makes one. */
function Head({ bench, column, show }: { bench: BenchDoings; column: Column; show: (over: Over) => void }) {
  const name = column.name ?? "";
  const { setNodeRef, isOver } = useDroppable({ id: `column ${name}`, data: { column: name } });
  const thread = bench.threads.get(name);
  const field = fieldsOf(bench.form).find((each) => each.column === name);
  const on = field && bench.selected.includes(field.id);
  return (
    <th
      ref={setNodeRef}
      scope="col"
      data-column={name}
      className={`${thread === undefined ? "untied" : `thread-${thread}`} ${on ? "on" : ""} ${isOver ? "target" : ""}`}
      onMouseEnter={() => field && highlight(field.id, true)}
      onMouseLeave={() => field && highlight(field.id, false)}
    >
      <button
        type="button"
        title={field ? `${column.title}: field ${field.label}` : `Make a field for ${column.title}`}
        onClick={() => {
          if (!field) bench.tie([name]);
          else {
            bench.select(field.id);
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
}

/** Lights the field while its column is pointed at. */
function highlight(field: string, on: boolean) {
  document.querySelector(`[data-piece="${CSS.escape(field)}"]`)?.classList.toggle("lit", on);
}
