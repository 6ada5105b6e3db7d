import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { formsQuery } from "../api/queries";
import { Trouble } from "../ui/Trouble";

export function FormsPage() {
  const forms = useQuery(formsQuery);
  return (
    <main className="place">
      <header className="top">
        <h1>Forms</h1>
      </header>
      <div className="overflow-auto p-5">
        <Trouble error={forms.error} />
        {forms.data?.length === 0 && (
          <p>
            There is no form yet. A form is made with its table:{" "}
            <Link className="text-indigo underline" to="/tables/new">
              make a table
            </Link>
            .
          </p>
        )}
        {forms.data && forms.data.length > 0 && (
          <table className="box w-full max-w-4xl border-separate border-spacing-0 text-left">
            <thead>
              <tr className="text-[13.5px] text-soft">
                {["Form", "Writes to", "Published", ""].map((heading) => (
                  <th key={heading} className="border-b border-line px-4 py-2 font-semibold">
                    {heading}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {forms.data.map((form) => (
                <tr key={form.id}>
                  <td className="px-4 py-2 font-semibold">{form.title}</td>
                  <td className="px-4 py-2">
                    <Link className="text-indigo underline underline-offset-2" to={`/tables/${form.table}`}>
                      {form.tableTitle}
                    </Link>
                  </td>
                  <td className="px-4 py-2 text-soft">
                    {form.published ? `version ${form.published}` : "not yet"}
                  </td>
                  <td className="px-4 py-2 text-right">
                    {form.published && (
                      <Link
                        className="btn"
                        to={`/desk/${form.id}`}
                        aria-label={`Open ${form.title} at the Desk`}
                      >
                        Open at the Desk
                      </Link>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </main>
  );
}
