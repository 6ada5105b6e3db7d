import { useState } from "react";
import { Link } from "react-router";
import { answered, api, type Column, type Schemas, type Table } from "../api/client";
import { deskFinding, just } from "../find/address";
import { shown } from "../model/shown";
import { Trouble } from "../ui/Trouble";
import { apart } from "./words";

interface Props {
  table: Table;
  look: Schemas["AlikeLookJson"];
  columns: Column[];
  group: Schemas["AlikeGroupJson"];
  /** Where the Desk opens with records of the table, if it does. */
  desk: string | undefined;
}

/** Records that are nearly the same, with what is not the same lit, until somebody says that they are different. */
export function AlikeGroup({ table, look, columns, group, desk }: Props) {
  const [different, setDifferent] = useState(false);
  const [error, setError] = useState<unknown>(null);
  const { records, why } = group;
  const say = (so: boolean) =>
    answered(
      api.PUT("/api/tables/{table}/different", {
        params: { path: { table: table.name } },
        body: { records: records.map(({ id }) => id), different: so },
      }),
    )
      .then(() => setDifferent(so))
      .catch(setError);
  const rows = records.map(({ row }) => row).join(" and ");
  const lit = apart(columns, records);
  if (different)
    return (
      <li className="box flex items-center gap-3 p-3 text-soft">
        Rows {rows} are different; they are not shown again.
        <button type="button" className="btn small" onClick={() => say(false)}>
          Undo
        </button>
      </li>
    );
  return (
    <li className="box overflow-x-auto">
      <div className="flex items-center gap-3 px-4 pt-3">
        <h2>{why}</h2>
        <span className="flex-1" />
        <button type="button" className="btn small" onClick={() => say(true)}>
          They are different<span className="sr-only">: rows {rows}</span>
        </button>
      </div>
      <Trouble error={error} />
      <table className="listing">
        <thead>
          <tr>
            <th>Row</th>
            {columns.map(({ name, title }) => (
              <th key={name}>{title}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {records.map((record) => (
            <tr key={record.id}>
              <td>
                {desk ? (
                  <Link
                    className="link"
                    to={deskFinding(
                      desk,
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
    </li>
  );
}
