import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import type { Form, Schemas, Table } from "../../api/client";
import { tableQuery, tablesQuery } from "../../api/queries";
import { fieldsOf } from "../../form/items";

type Tie = Schemas["FormTie"];

/** The choice of one of the tables. */
export function TableSelect({
  name,
  value,
  set,
}: {
  name: string;
  value: string;
  set: (table: string) => void;
}) {
  const tables = useQuery(tablesQuery).data ?? [];
  return (
    <select className="entry small" aria-label={name} value={value} onChange={(e) => set(e.target.value)}>
      <option value="">choose a table</option>
      {tables.map((table) => (
        <option key={table.name} value={table.name}>
          {table.title}
        </option>
      ))}
    </select>
  );
}

/** The columns of a table by name, once they are known. */
export function useColumns(table: string) {
  return useQuery({ ...tableQuery(table), enabled: table !== "" }).data?.columns ?? [];
}

interface SelectProps {
  name: string;
  value: string;
  set: (column: string) => void;
  none?: string;
}

/** The choice of one of the form's fields. */
export function FieldSelect({ form, name, value, set, none }: SelectProps & { form: Form }) {
  return (
    <select className="entry small" aria-label={name} value={value} onChange={(e) => set(e.target.value)}>
      {(none !== undefined || !value) && <option value="">{none ?? "choose a field"}</option>}
      {fieldsOf(form).map((field) => (
        <option key={field.id} value={field.column}>
          {field.label || field.column}
        </option>
      ))}
    </select>
  );
}

/** The choice of one of another table's columns. */
export function ColumnSelect({
  columns,
  name,
  value,
  set,
  none,
}: SelectProps & { columns: Table["columns"] }) {
  return (
    <select className="entry small" aria-label={name} value={value} onChange={(e) => set(e.target.value)}>
      {(none !== undefined || !value) && <option value="">{none ?? "choose a column"}</option>}
      {columns.map((column) => (
        <option key={column.name} value={column.name}>
          {column.title}
        </option>
      ))}
    </select>
  );
}

interface TiesProps {
  form: Form;
  name: string;
  table: string;
  ties: Tie[];
  set: (ties: Tie[]) => void;
  /** What stands between a field and a column. */
  between: string;
}

/** Which field belongs to which column of another table. */
export function Ties({ form, name, table, ties, set, between }: TiesProps) {
  const columns = useColumns(table);
  const first = fieldsOf(form)[0]?.column ?? "";
  return (
    <fieldset className="ties" aria-label={name}>
      <legend>{name}</legend>
      {ties.map((tie, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: ties have no names of their own, only their order
        <div key={place} className="tie">
          <FieldSelect
            form={form}
            name={`Field ${place + 1}`}
            value={tie.column}
            set={(column) => set(ties.map((each, i) => (i === place ? { ...each, column } : each)))}
          />
          <span className="text-soft">{between}</span>
          <ColumnSelect
            columns={columns}
            name={`Column ${place + 1}`}
            value={tie.source}
            set={(source) => set(ties.map((each, i) => (i === place ? { ...each, source } : each)))}
          />
          <button
            type="button"
            className="btn quiet icon"
            aria-label={`Take ${name} ${place + 1} away`}
            onClick={() => set(ties.filter((_, i) => i !== place))}
          >
            <X size={14} aria-hidden="true" />
          </button>
        </div>
      ))}
      <button
        type="button"
        className="btn small justify-self-start"
        disabled={!table}
        onClick={() => set([...ties, { column: first, source: columns[0]?.name ?? "" }])}
      >
        Add one
      </button>
    </fieldset>
  );
}
