import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { answered, api } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { grouped } from "../model/counted";
import { Trouble } from "../ui/Trouble";

/** The tables and views that other programs made in the same database. */
export function AdoptPage() {
  const there = useQuery({
    queryKey: queryKeyOf("adoptable"),
    queryFn: () => answered(api.GET("/api/adoptable")),
  });
  return (
    <main className="place">
      <header className="top">
        <h1>Adopt a table</h1>
      </header>
      <div className="grid auto-rows-max content-start gap-4 overflow-auto p-5">
        <p className="max-w-prose">
          These tables were made by other programs in Weft's database. Forms can be made on them as on any,
          and the other programs go on writing to them. Choose one to see what that comes to; nothing is
          changed before you say so.
        </p>
        <Trouble error={there.error} />
        {there.data?.length === 0 && (
          <p className="max-w-prose text-soft">
            There is none: no other schema of the database has a table that Weft may read.
          </p>
        )}
        {there.data && there.data.length > 0 && (
          <table className="box w-full max-w-4xl border-separate border-spacing-0 text-left">
            <thead>
              <tr className="text-[13.5px] text-soft">
                <th className="border-b border-line px-4 py-2 font-semibold">Name in SQL</th>
                <th className="border-b border-line px-4 py-2 font-semibold">Kind</th>
                <th className="border-b border-line px-4 py-2 text-right font-semibold">Rows, about</th>
                <th className="border-b border-line px-4 py-2 font-semibold">Here</th>
              </tr>
            </thead>
            <tbody>
              {there.data.map((each) => (
                <tr key={`${each.schema}.${each.name}`}>
                  <td className="px-4 py-2 font-mono text-[14px]">
                    <Link
                      className="font-semibold text-indigo underline-offset-2 hover:underline"
                      to={
                        each.table
                          ? `/tables/${each.table}`
                          : `/tables/adopt/${encodeURIComponent(each.schema)}/${encodeURIComponent(each.name)}`
                      }
                    >
                      {each.schema}.{each.name}
                    </Link>
                  </td>
                  <td className="px-4 py-2">{each.view ? "view" : "table"}</td>
                  <td className="px-4 py-2 text-right tabular-nums">
                    {each.view ? "" : each.rows == null ? "not counted yet" : grouped(each.rows)}
                  </td>
                  <td className="px-4 py-2 text-soft">{each.table ? "adopted" : ""}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </main>
  );
}
