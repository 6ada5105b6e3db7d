import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link } from "react-router";
import { formsQuery, tablesQuery } from "../api/queries";
import { BringFile } from "../imports/BringFile";
import { Trouble } from "../ui/Trouble";

/** Where a day begins: the forms one can enter into, and the way to a new one. */
export function Doors() {
  const forms = useQuery(formsQuery);
  const tables = useQuery(tablesQuery);
  const rows = useMemo(() => new Map(tables.data?.map((table) => [table.name, table.rows])), [tables.data]);
  const open = forms.data?.filter((form) => form.published !== null && !form.archived) ?? [];
  return (
    <main className="place">
      <header className="top">
        <h1>Doors</h1>
      </header>
      <div className="overflow-auto p-5">
        <Trouble error={forms.error} />
        <div className="grid max-w-6xl gap-6 lg:grid-cols-[minmax(0,1fr)_360px]">
          <section aria-label="Forms to enter into">
            {forms.data && open.length === 0 && (
              <p className="max-w-prose">
                There is no form yet. Bring a file of rows: Weft makes a table and a form of it, and you can
                key the next entry at once.
              </p>
            )}
            <ul className="grid gap-3 sm:grid-cols-2">
              {open.map((form) => (
                <li key={form.id}>
                  <Link to={`/desk/${form.id}`} className="box grid gap-2 p-4 hover:border-indigo">
                    <span className="text-[17px] font-semibold">{form.title}</span>
                    <span className="flex flex-wrap gap-2">
                      <span className="chip">Everything</span>
                      <span className="chip">
                        writes to <span className="font-mono">{form.table}</span>
                      </span>
                    </span>
                    <span className="text-soft">
                      <span className="font-mono">{(rows.get(form.table) ?? 0).toLocaleString("en")}</span>{" "}
                      rows
                    </span>
                  </Link>
                </li>
              ))}
            </ul>
          </section>
          <section className="box h-fit p-4" aria-labelledby="bring">
            <h2 id="bring" className="mb-3">
              Bring a file of rows
            </h2>
            <BringFile />
            <p className="mt-4 text-soft">
              No file?{" "}
              <Link className="text-indigo underline underline-offset-2" to="/tables/new">
                Make a table from headings
              </Link>
              .
            </p>
          </section>
        </div>
      </div>
    </main>
  );
}
