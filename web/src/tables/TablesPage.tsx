import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { Link } from "react-router";
import { tablesQuery } from "../api/queries";
import { WaitingFiles } from "../imports/WaitingFiles";
import { grouped } from "../model/counted";
import { Trouble } from "../ui/Trouble";

export function TablesPage() {
  const tables = useQuery(tablesQuery);
  return (
    <main className="place">
      <header className="top">
        <h1>Tables</h1>
        <span className="flex-1" />
        <Link className="btn" to="/tables/adopt">
          Adopt a table
        </Link>
        <Link className="btn go" to="/tables/new">
          <Plus size={18} aria-hidden="true" /> Make a table
        </Link>
      </header>
      <div className="overflow-auto p-5">
        <Trouble error={tables.error} />
        <WaitingFiles />
        {tables.data?.length === 0 && (
          <p className="max-w-prose">
            There is no table yet. Make one from a file of rows or from a line of headings; a form for it is
            made at once.
          </p>
        )}
        {tables.data && tables.data.length > 0 && (
          <table className="box w-full max-w-4xl border-separate border-spacing-0 text-left">
            <thead>
              <tr className="text-[13.5px] text-soft">
                <th className="border-b border-line px-4 py-2 font-semibold">Table</th>
                <th className="border-b border-line px-4 py-2 font-semibold">Name in SQL</th>
                <th className="border-b border-line px-4 py-2 text-right font-semibold">Rows</th>
              </tr>
            </thead>
            <tbody>
              {tables.data.map((table) => (
                <tr key={table.name}>
                  <td className="px-4 py-2">
                    <Link
                      className="font-semibold text-indigo underline-offset-2 hover:underline"
                      to={`/tables/${table.name}`}
                    >
                      {table.title}
                    </Link>
                  </td>
                  <td className="px-4 py-2 font-mono text-[14px] text-soft">records.{table.name}</td>
                  <td className="px-4 py-2 text-right tabular-nums">{grouped(table.rows)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </main>
  );
}
