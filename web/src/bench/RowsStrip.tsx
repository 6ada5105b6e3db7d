import { useDroppable } from "@dnd-kit/core";
import { useQuery } from "@tanstack/react-query";
import { Pencil } from "lucide-react";
import { memo, useEffect, useMemo, useState } from "react";
import { Link } from "react-router";
import {
  answered,
  api,
  type Column,
  type Form,
  type FormField,
  type StoredRecord,
  type Table,
} from "../api/client";
import { queryKeyOf } from "../api/keys";
import { counted } from "../model/counted";
import { fieldsOf } from "../model/items";
import { Stored } from "../model/Stored";
import { shown } from "../model/shown";
import { useSubscribed } from "../model/useSubscribed";
import type { Over } from "./over";
import { Taller, useStrip } from "./Taller";
import { columnsInOrder, light } from "./threads";
import { type BenchDoings, type Found, useLatest } from "./useBench";

interface Props {
  bench: BenchDoings;
  table: Table;
  show: (over: Over) => void;
}

/**
 * The table's last rows and the next free row, which fills in as one types, with the values as they will be stored; or, while
 * a rule is open, the stored records that break it.
 */
export const RowsStrip = memo(function RowsStrip({ bench, table, show }: Props) {
  const { form, state, found } = bench;
  const [last, setLast] = useState(false);
  const strip = useStrip();
  const order = [...bench.threads.keys()].join(" ");
  const columns = useMemo(() => columnsInOrder(order.split(" "), table), [order, table]);
  const latest = useLatest(bench);
  const fields = new Map(fieldsOf(form).map((field) => [field.column, field]));
  const after = Math.max(0, table.lastRow - strip.rows);
  const rows = useQuery({
    queryKey: queryKeyOf("rows", table.name, "last", after),
    queryFn: () =>
      answered(
        api.GET("/api/tables/{table}/records", {
          params: { path: { table: table.name }, query: { after: String(after), limit: strip.rows } },
        }),
      ),
    placeholderData: (before) => before,
  }).data?.records;
  const breaking = found && found.came.broken > 0 && !bench.scope ? found : undefined;
  const key = found?.rule.key;
  // Each rule that is opened shows what breaks it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: another rule is open
  useEffect(() => setLast(false), [key]);
  const broken = last ? undefined : breaking;
  const ruling = broken?.rule.columns ?? NONE;
  const [one] = bench.items;
  const shownColumn = bench.ruling[0] ?? (one?.kind === "field" ? one.column : undefined);
  useEffect(() => {
    if (!shownColumn) return;
    document
      .querySelector(`[data-column="${CSS.escape(shownColumn)}"]`)
      ?.scrollIntoView({ inline: "nearest", block: "nearest" });
  }, [shownColumn]);
  const frays = state?.frays ?? [];
  return (
    <section className="rows-strip" aria-label="Rows">
      <Taller strip={strip} />
      <header>
        <b>{table.name}</b>
        {breaking && (
          <>
            <button
              type="button"
              className="chip breaking"
              aria-pressed={!last}
              onClick={() => setLast(false)}
            >
              {broke(breaking, bench.form)} “{short(breaking.rule.text)}”
            </button>
            <button type="button" className="chip" aria-pressed={last} onClick={() => setLast(true)}>
              last rows
            </button>
          </>
        )}
        {!breaking && <span className="text-soft">{counted(table.rows, "row", "rows", bench.form)}</span>}
        <span className="flex-1" />
        <button
          type="button"
          className="chip"
          aria-pressed={bench.allThreads}
          onClick={() => bench.setAllThreads(!bench.allThreads)}
        >
          Threads
        </button>
        <button
          type="button"
          className={`chip fray-count ${frays.some((fray) => fray.bites) ? "bites" : frays.length > 0 ? "light" : ""}`}
          disabled={frays.length === 0}
          onClick={() => show("frays")}
        >
          {frays.length === 0 ? "no frays" : frays.length === 1 ? "1 fray" : `${frays.length} frays`}
        </button>
      </header>
      <div
        className="strip-scroll"
        tabIndex={0}
        role="group"
        aria-label={broken ? `Records of ${table.title} that break the rule` : `Last rows of ${table.title}`}
        style={{ height: strip.height }}
      >
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
                  on={
                    bench.selected.includes(fields.get(column.name)?.id ?? "") || ruling.includes(column.name)
                  }
                  show={show}
                />
              ))}
            </tr>
          </thead>
          <tbody>
            {broken
              ? broken.came.examples.map(({ record, message }) => (
                  <StoredRow
                    key={record.id}
                    record={record}
                    columns={columns}
                    ruling={ruling}
                    message={message}
                    desk={state?.published ? form.id : undefined}
                  />
                ))
              : rows?.map((record) => (
                  <StoredRow key={record.id} record={record} columns={columns} ruling={NONE} />
                ))}
            {!broken && <NextRow bench={bench} row={table.nextRow} columns={columns} />}
          </tbody>
        </table>
      </div>
    </section>
  );
});

const NONE: string[] = [];
const broke = ({ came: { broken, examples, next } }: Found, form: Form) =>
  `${counted(broken, "row breaks", "rows break", form)}${next ? " so far" : ""}${examples.length < broken ? `, the first ${examples.length} of them below` : ""}`;

/** A rule in a chip: what must be so. */
const short = (text: string) => text.replace(/^(stops|asks)( and stays)? unless /, "").replace(/: ".*$/, "");

interface StoredProps {
  record: StoredRecord;
  columns: Column[];
  /** The columns that a rule speaks of, which the record breaks. */
  ruling: string[];
  message?: string;
  /** The door by which the record is put right; none where the form is not published. */
  desk?: string;
}

const StoredRow = memo(function StoredRow({ record, columns, ruling, message, desk }: StoredProps) {
  return (
    <tr title={message}>
      <th scope="row">
        {desk ? (
          <Link to={`/d/${desk}?row=${record.row}`} title={`Open row ${record.row} at the Desk`}>
            {record.row}
          </Link>
        ) : (
          record.row
        )}
      </th>
      {columns.map((column) => (
        <td key={column.name} className={ruling.includes(column.name) ? "breaks" : ""}>
          <Stored value={record.values[column.name]} type={column.type} />
        </td>
      ))}
    </tr>
  );
});
/** The next free row, filling in as one types. */
function NextRow({ bench, row, columns }: { bench: BenchDoings; row: number; columns: Column[] }) {
  const { entry } = bench;
  const values = useSubscribed(entry).assessment?.values ?? {};
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
