import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { answered, api, type Column, type Schemas, type Table } from "../api/client";
import { deskFinding, just } from "../find/address";
import { shown } from "../model/shown";
import { Trouble } from "../ui/Trouble";
import { MakeOne } from "./MakeOne";
import { apart, rowsOf } from "./together";

interface Props {
  table: Table;
  look: Schemas["AlikeLookJson"];
  columns: Column[];
  group: Schemas["AlikeGroupJson"];
  /** The door by which its records are seen at the Desk and made one, if there is one. */
  door: string | undefined;
}

/** So many at most are made one at once. */
const MOST = 10;

/** Records that are nearly the same, with what is not the same lit, until they are told apart or made one. */
export function AlikeGroup({ table, look, columns, group, door }: Props) {
  const [different, setDifferent] = useState(false);
  const [making, setMaking] = useState(false);
  const [made, setMade] = useState<Schemas["MadeOneJson"]>();
  const [error, setError] = useState<unknown>(null);
  const { records, why } = group;
  const frame = useRef<HTMLLIElement>(null);
  const told = different || made !== undefined;
  const before = useRef(told);
  useEffect(() => {
    // What was pressed is there no more; one goes on at what can be done now.
    if (before.current !== told) frame.current?.querySelector("button")?.focus();
    before.current = told;
  }, [told]);
  const rows = rowsOf(records);
  const say = (so: boolean) =>
    answered(
      api.PUT("/api/tables/{table}/different", {
        params: { path: { table: table.name } },
        body: { records: records.map(({ id }) => id), different: so },
      }),
    )
      .then(() => setDifferent(so))
      .catch(setError);
  const takeBack = () =>
    made?.id &&
    answered(
      api.POST("/api/doors/{door}/made-one/{id}/take-back", {
        params: { path: { door: door ?? "", id: made.id } },
      }),
    )
      .then(() => setMade(undefined))
      .catch(setError);
  if (told)
    return (
      <li ref={frame} className="box grid gap-2 p-3 text-soft">
        <span className="flex items-center gap-3">
          {made
            ? `Rows ${rows} are one now, row ${made.record.row}.`
            : `Rows ${rows} are different; they are not shown again.`}
          <button type="button" className="btn small" onClick={made ? takeBack : () => say(false)}>
            {made ? "Take it back" : "Undo"}
          </button>
        </span>
        <Trouble error={error} />
      </li>
    );
  const lit = apart(
    columns.map(({ name }) => name),
    records,
  );
  return (
    <li ref={frame} className="box overflow-x-auto">
      <div className="flex items-center gap-3 px-4 pt-3">
        <h2>{why}</h2>
        <span className="flex-1" />
        {door && records.length <= MOST && (
          <button type="button" className="btn small" onClick={() => setMaking(true)}>
            Make them one…<span className="sr-only">: rows {rows}</span>
          </button>
        )}
        <button type="button" className="btn small" onClick={() => say(true)}>
          They are different<span className="sr-only">: rows {rows}</span>
        </button>
      </div>
      <Trouble error={error} />
      <table className="listing table-fixed wrap-anywhere">
        <thead>
          <tr>
            <th className="w-20">Row</th>
            {columns.map(({ name, title }) => (
              <th key={name}>{title}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {records.map((record) => (
            <tr key={record.id}>
              <td>
                {door ? (
                  <Link
                    className="link"
                    to={deskFinding(
                      `/d/${door}`,
                      look.columns.map((name) => `${name}:${just(shown(record.values[name]))}`),
                    )}
                  >
                    {record.row}
                  </Link>
                ) : (
                  record.row
                )}
              </td>
              {columns.map(({ name, type }) => (
                <td key={name} className={lit.has(name) ? "bg-weld-wash" : undefined}>
                  {shown(record.values[name], type)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {making && door && (
        <MakeOne
          door={door}
          columns={table.columns.filter(({ shownOnly }) => !shownOnly)}
          records={records}
          close={() => setMaking(false)}
          done={(one) => {
            setMaking(false);
            setError(null);
            setMade(one);
          }}
        />
      )}
    </li>
  );
}
