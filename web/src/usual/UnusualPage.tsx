import { type QueryClient, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { Table } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { formsQuery } from "../api/queries";
import { counted } from "../model/counted";
import { shown } from "../model/shown";
import { useSubscribed } from "../model/useSubscribed";
import { OfTable, useOwnDoor } from "../tables/OfTable";
import { Trouble } from "../ui/Trouble";
import { UsualPlot } from "./UsualPlot";
import { type Group, type Pair, UnusualLook } from "./unusual";

/** The look over a table, which is kept as long as one is signed in. */
function lookOf(queries: QueryClient, table: string): UnusualLook {
  const key = queryKeyOf("unusual", table);
  queries.setQueryDefaults(key, { gcTime: Number.POSITIVE_INFINITY });
  const known = queries.getQueryData<UnusualLook>(key);
  return known ?? (queries.setQueryData(key, new UnusualLook(table)) as UnusualLook);
}

/** What is unusual among all records of a table, without any rule, and the rules that ask about it. */
export function UnusualPage() {
  return <OfTable what="Unusual">{(table) => <Looked key={table.name} table={table} />}</OfTable>;
}

function Looked({ table }: { table: Table }) {
  const queries = useQueryClient();
  const [look] = useState(() => lookOf(queries, table.name));
  const { looking, done, whole, groups, often, error } = useSubscribed(look);
  const begins = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (document.activeElement === document.body) begins.current?.focus();
  }, []);
  const through = !looking && whole > 0 && done === whole;
  return (
    <>
      <section className="box mb-4 grid max-w-[1240px] gap-3 p-4" aria-label="The look">
        <p className="max-w-prose">
          Each column is looked at alone and by each other one: numbers, dates and times that lie far from
          those of the same group, choices and links that were hardly ever there.
        </p>
        <div className="flex flex-wrap items-center gap-4">
          <button
            ref={begins}
            type="button"
            className={`btn ${looking ? "" : "go"}`}
            onClick={looking ? look.end : look.begin}
          >
            {looking ? "End" : whole > 0 ? "Look over all records again" : "Look over all records"}
          </button>
          <span role="status" className="flex items-center gap-3 text-soft">
            {looking && (
              <progress
                className="progress progress-primary w-44"
                aria-label="How far it is"
                value={done}
                max={whole || 1}
              />
            )}
            {whole > 0 && `${done} of ${counted(whole, "look")}`}
            {!looking && whole > 0 && !through && ": it ended before it was through"}
          </span>
        </div>
        <Trouble error={error} />
      </section>
      {through && groups.length === 0 && <p className="text-soft">Nothing is unusual here.</p>}
      <ol className="grid max-w-[1240px] gap-3" aria-label="What is unusual, the worst first">
        {groups.map((group) => (
          <Unusual key={`${group.column} ${of(group)}`} table={table} group={group} look={look} />
        ))}
      </ol>
      {often.length > 0 && (
        <p className="mt-4 max-w-[1240px] text-soft">
          Left out, since more than 10 records and one in 50 would be unusual:{" "}
          {often.map((pair) => titled(table, pair)).join("; ")}.
        </p>
      )}
    </>
  );
}

const of = ({ by }: Pair) => (by ? `${by.of} ${by.column}` : "");

/** “Water by River, by the month of Taken on”. */
function titled(table: Table, { column, by }: Pair): string {
  const title = (name: string) => table.columns.find((each) => each.name === name)?.title ?? name;
  if (!by) return title(column);
  return `${title(column)} by ${by.of === "value" ? "" : `${by.of} of `}${title(by.column)}`;
}

function Unusual({ table, group, look }: { table: Table; group: Group; look: UnusualLook }) {
  const { column, by, found } = group;
  const type = table.columns.find(({ name }) => name === column)?.type;
  const door = useOwnDoor(table);
  // Of an adopted table nothing is counted, so that such a rule would say nothing.
  const forms = (useQuery(formsQuery).data ?? []).filter(
    (form) => form.table === table.name && !form.archived && !table.adopted,
  );
  return (
    <li className="box overflow-x-auto">
      <div className="flex flex-wrap items-center gap-3 px-4 pt-3">
        <h2>{titled(table, group)}</h2>
        <span className="text-soft">
          {counted(found.many, "record")}
          {by && " that would be usual without it"}
        </span>
        <span className="flex-1" />
        {forms.slice(0, 3).map((form) => (
          <Link
            key={form.id}
            className="btn small"
            to={`/bench/${form.id}`}
            state={{ declare: found.rule }}
            title={found.sentence}
          >
            Ask about it in {form.title}
          </Link>
        ))}
      </div>
      <p className="px-4 pt-1 font-mono text-[14px] text-soft">{found.sentence}</p>
      <table className="listing table-fixed wrap-anywhere">
        <thead>
          <tr>
            <th className="w-20">Row</th>
            <th className="w-40">{titled(table, { column })}</th>
            <th>What is said of it</th>
            <th className="w-56">
              <span className="sr-only">Where it lies</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {found.records.map(({ record, finding }) => (
            <tr key={record.id}>
              <td>
                {door ? (
                  <Link className="link" to={`/d/${door}?row=${record.row}`}>
                    {record.row}
                  </Link>
                ) : (
                  record.row
                )}
              </td>
              <td className="font-mono">{shown(record.values[column], type)}</td>
              <td>{finding.message}</td>
              <td>
                <UsualPlot finding={finding} bare />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {found.more && (
        <button type="button" className="btn small m-3" onClick={() => look.more(group)}>
          Show more<span className="sr-only"> of {titled(table, group)}</span>
        </button>
      )}
    </li>
  );
}
