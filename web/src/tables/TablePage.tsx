import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { answered, api, type Column, type Table } from "../api/client";
import { dependentsQuery, formsQuery, tableQuery } from "../api/queries";
import { ColumnEditor } from "../bench/ColumnEditor";
import { useLiveTable } from "../live/live";
import { counted } from "../model/counted";
import { shown } from "../model/shown";
import { TYPES } from "../model/types";
import { RowsGrid } from "../rows/RowsGrid";
import { byRow } from "../rows/source";
import { Trouble } from "../ui/Trouble";
import { DeleteTable } from "./DeleteTable";
import { MakeForm } from "./MakeForm";

export function TablePage() {
  const name = useParams().table ?? "";
  const table = useQuery(tableQuery(name));
  const [view, setView] = useState<"rows" | "columns">("rows");
  useLiveTable(table.data?.name);
  return (
    <main className="place">
      <header className="top">
        {table.data ? <TableTitle key={table.data.title} table={table.data} /> : <h1>{name}</h1>}
        <span className="chip max-[1400px]:hidden">
          <span className="font-mono">{table.data?.adopted ?? `records.${name}`}</span>
          {table.data?.adopted && <span>adopted</span>}
        </span>
        <div role="tablist" aria-label="View" className="join shrink-0">
          {(["rows", "columns"] as const).map((each) => (
            <button
              key={each}
              type="button"
              role="tab"
              aria-selected={view === each}
              className={`btn join-item h-8 px-3 text-[14px] ${view === each ? "go" : ""}`}
              onClick={() => setView(each)}
            >
              {each === "rows"
                ? table.data
                  ? counted(table.data.rows, "row")
                  : "… rows"
                : table.data
                  ? counted(table.data.columns.length, "column")
                  : "… columns"}
            </button>
          ))}
        </div>
        <span className="flex-1" />
        <Link className="btn quiet shrink-0" to={`/tables/${name}/alike`}>
          <span className="max-[1150px]:hidden">What is </span>alike
        </Link>
        <Link className="btn quiet shrink-0" to={`/tables/${name}/unusual`}>
          <span className="max-[1150px]:hidden">What is </span>unusual
        </Link>
        {table.data?.columns.some((column) => !column.shownOnly) && (
          <Link className="btn shrink-0" to={`/tables/${name}/bring`}>
            Bring rows in
          </Link>
        )}
        {table.data && <FormsOfTable table={table.data} />}
      </header>
      <div className="grid min-h-0 overflow-auto">
        {table.error && (
          <div className="p-5">
            <Trouble error={table.error} />
          </div>
        )}
        {table.data && view === "rows" && (
          <RowsGrid
            name={`Rows of ${table.data.title}`}
            table={table.data.name}
            source={byRow(table.data)}
            columns={table.data.columns}
          />
        )}
        {table.data && view === "columns" && <Columns table={table.data} />}
      </div>
    </main>
  );
}

/** What people call the table, changed in its place; its name in SQL stays. */
function TableTitle({ table }: { table: Table }) {
  const [title, setTitle] = useState(table.title);
  const [error, setError] = useState<Error | null>(null);
  const queries = useQueryClient();
  const keep = () => {
    if (!title.trim() || title.trim() === table.title) return setTitle(table.title);
    answered(
      api.PUT("/api/tables/{table}", {
        params: { path: { table: table.name } },
        body: { title: title.trim(), placement: null },
      }),
    )
      .then(() => queries.invalidateQueries())
      .catch(setError);
  };
  return (
    <>
      <h1 className="sr-only">{table.title}</h1>
      <input
        className="title"
        aria-label="Title of the table"
        title="Change its title"
        value={title}
        maxLength={120}
        size={Math.max(8, title.length)}
        onChange={(e) => setTitle(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => {
          if (e.key === "Enter") e.currentTarget.blur();
          if (e.key === "Escape") setTitle(table.title);
        }}
      />
      <Trouble error={error} />
    </>
  );
}

function FormsOfTable({ table }: { table: Table }) {
  const forms = (useQuery(formsQuery).data ?? []).filter((form) => form.table === table.name);
  return (
    <>
      {forms
        .filter((form) => form.published && !form.archived)
        .slice(0, 2)
        .map((form) => (
          <Link key={form.id} className="btn min-w-0" to={`/d/${form.id}`}>
            <span className="truncate">Enter into {form.title}</span>
          </Link>
        ))}
      <MakeForm table={table.name} main={forms.length === 0} />
    </>
  );
}

function Columns({ table }: { table: Table }) {
  const { columns } = table;
  const [editing, setEditing] = useState<{ column?: string }>();
  const [deleting, setDeleting] = useState(false);
  const queries = useQueryClient();
  return (
    <div className="p-5">
      <table className="box w-full max-w-5xl border-separate border-spacing-0 text-left">
        <thead>
          <tr className="text-[13.5px] text-soft">
            {["Column", "Name in SQL", "Type", "Rules", ""].map((heading) => (
              <th key={heading} className="border-b border-line px-4 py-2 font-semibold">
                {heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {columns.map((column) => (
            <tr key={column.name}>
              <td className="px-4 py-1.5 font-semibold">{column.title}</td>
              <td className="px-4 py-1.5 font-mono text-[14px] text-soft">{column.name}</td>
              <td className="px-4 py-1.5">{TYPES[column.type]}</td>
              <td className="px-4 py-1.5 text-soft">{rules(column)}</td>
              <td className="px-4 py-1.5 text-right">
                <button
                  type="button"
                  className="btn quiet small"
                  aria-label={`Change ${column.title}`}
                  onClick={() => setEditing({ column: column.name })}
                >
                  Change
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <UsedBy table={table} />
      <div className="mt-4 flex max-w-5xl gap-3">
        {table.adopted ? (
          <p className="max-w-prose text-soft">
            Other programs made this table. Its columns and what holds of them are changed where they were
            made; titles can be changed here.
          </p>
        ) : (
          <button type="button" className="btn" onClick={() => setEditing({})}>
            Add a column
          </button>
        )}
        <span className="flex-1" />
        <button type="button" className="btn quiet" onClick={() => setDeleting(true)}>
          {table.adopted ? "Let it go…" : "Delete the table…"}
        </button>
      </div>
      {editing && (
        <ColumnEditor
          table={table}
          column={editing.column}
          close={() => setEditing(undefined)}
          changed={() => queries.invalidateQueries()}
        />
      )}
      {deleting && <DeleteTable table={table} close={() => setDeleting(false)} />}
    </div>
  );
}

/** Every form, link, line and fill that would be felt if the table changed. */
function UsedBy({ table }: { table: Table }) {
  const used = useQuery(dependentsQuery(table.name)).data;
  if (!used) return null;
  const others = [...new Set(used.uses.map(({ form }) => form))].map((form) => {
    const ways = used.uses.filter((use) => use.form === form).map(({ what }) => what);
    return `${form} (${ways.join(", ")})`;
  });
  const parts = [
    ["Forms", used.forms.join(", ")],
    ["Links that lead to it", used.links.join(", ")],
    ["In other forms", others.join(", ")],
  ].filter(([, what]) => what);
  return (
    <section className="mt-5 max-w-5xl" aria-label="What uses it">
      <h2 className="mb-2">What uses it</h2>
      {parts.length === 0 && <p className="text-soft">Nothing yet.</p>}
      <dl className="grid gap-1">
        {parts.map(([name, what]) => (
          <div key={name} className="flex gap-3">
            <dt className="w-44 flex-none text-soft">{name}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

function rules(column: Column): string {
  const min = shown(column.min, column.type);
  const max = shown(column.max, column.type);
  return [
    column.required ? "required" : "",
    column.unique ? "unique" : "",
    column.scale != null ? `${column.scale} decimals` : "",
    min && max ? `${min} to ${max}` : min ? `at least ${min}` : max ? `at most ${max}` : "",
    column.choices?.join(" · ") ?? "",
    column.to ? `to ${column.to}, by ${column.shown?.join(" and ") || "row"}` : "",
    column.longest ? `${column.longest} characters at most` : "",
    column.shownOnly ? `shown only. ${column.shownOnly}` : "",
    column.removed === "empty" ? "emptied when the record is removed" : "",
  ]
    .filter(Boolean)
    .join(", ");
}
