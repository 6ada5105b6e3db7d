import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { answered, api, type FormListed } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { formsQuery } from "../api/queries";
import { Cover } from "../ui/Cover";
import { Trouble } from "../ui/Trouble";
import { BringForm } from "./BringForm";

/** Every form: to be changed on the Bench, used at the Desk, copied, sent elsewhere, put out of use. */
export function FormsPage() {
  const forms = useQuery(formsQuery);
  const [bringing, setBringing] = useState(false);
  return (
    <main className="place">
      <header className="top">
        <h1>Forms</h1>
        <span className="flex-1" />
        <Link className="btn quiet" to="/messages">
          Messages
        </Link>
        <button type="button" className="btn" onClick={() => setBringing(true)}>
          Bring a form in
        </button>
        <Link className="btn go" to="/bench/new">
          <Plus size={18} aria-hidden="true" /> Make a form
        </Link>
      </header>
      <div className="overflow-auto p-5">
        <Trouble error={forms.error} />
        {forms.data?.length === 0 && (
          <p className="max-w-prose">
            There is no form yet. Make one from nothing, or{" "}
            <Link className="text-indigo underline" to="/tables/new">
              make a table
            </Link>
            , which gets a form of its own.
          </p>
        )}
        {forms.data && forms.data.length > 0 && (
          <table className="box w-full max-w-5xl border-separate border-spacing-0 text-left">
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
                <FormRow key={form.id} form={form} />
              ))}
            </tbody>
          </table>
        )}
      </div>
      {bringing && <BringForm close={() => setBringing(false)} />}
    </main>
  );
}

function FormRow({ form }: { form: FormListed }) {
  const queries = useQueryClient();
  const [error, setError] = useState<Error | null>(null);
  const [asking, setAsking] = useState(false);
  const doing = (asked: () => Promise<unknown>) => () =>
    asked()
      .then(() => queries.invalidateQueries({ queryKey: queryKeyOf("forms") }))
      .catch(setError);
  const path = { form: form.id };
  const copy = doing(() => answered(api.POST("/api/forms/{form}/copy", { params: { path } })));
  const archive = doing(() =>
    answered(api.PUT("/api/forms/{form}/archived", { params: { path }, body: { archived: !form.archived } })),
  );
  return (
    <tr className={form.archived ? "text-soft" : ""}>
      <td className="px-4 py-2">
        <Link
          className="font-semibold text-indigo underline-offset-2 hover:underline"
          to={`/bench/${form.id}`}
        >
          {form.title}
        </Link>
        {form.lost.length > 0 && (
          <Link className="ml-3 font-semibold text-[13.5px] text-madder" to={`/bench/${form.id}`}>
            {form.lost.length === 1 ? "a column is gone" : `${form.lost.length} columns are gone`}:{" "}
            {form.lost.join(", ")}
          </Link>
        )}
        <Trouble error={error} />
        {asking && <AskArchiving form={form} archive={archive} close={() => setAsking(false)} />}
      </td>
      <td className="px-4 py-2">
        <Link className="text-indigo underline underline-offset-2" to={`/tables/${form.table}`}>
          {form.tableTitle}
        </Link>
      </td>
      <td className="px-4 py-2 text-soft">
        {form.archived ? "archived" : form.published ? `version ${form.published}` : "no"}
      </td>
      <td className="px-4 py-2">
        <span className="flex justify-end gap-2">
          <button type="button" className="btn quiet small" onClick={copy} aria-label={`Copy ${form.title}`}>
            Copy
          </button>
          <a
            className="btn quiet small"
            href={`/api/forms/${form.id}/file`}
            download
            aria-label={`Export ${form.title}`}
          >
            Export
          </a>
          <button
            type="button"
            className="btn quiet small"
            onClick={form.archived ? archive : () => setAsking(true)}
            aria-label={form.archived ? `Use ${form.title} again` : `Archive ${form.title}`}
          >
            {form.archived ? "Use again" : "Archive"}
          </button>
          <Link className="btn small" to={`/bench/${form.id}`} aria-label={`Open ${form.title} on the Bench`}>
            Bench
          </Link>
          {form.published && (
            <Link className="btn small" to={`/d/${form.id}/work`} aria-label={`The work on ${form.title}`}>
              Work
            </Link>
          )}
          {form.published && !form.archived && (
            <Link className="btn small" to={`/d/${form.id}`} aria-label={`Open ${form.title} at the Desk`}>
              Desk
            </Link>
          )}
        </span>
      </td>
    </tr>
  );
}

/** Says what becomes of a form that is archived, before it is. */
function AskArchiving({
  form,
  archive,
  close,
}: {
  form: FormListed;
  archive: () => void;
  close: () => void;
}) {
  return (
    <Cover name={`Archive ${form.title}`} close={close}>
      <div className="grid gap-3 p-5">
        <h2>Archive {form.title}?</h2>
        <p className="max-w-prose">
          Its doors are shut: nobody enters by it any more. Its records stay in {form.tableTitle}, and{" "}
          <i>Use again</i> opens it as it was.
        </p>
        <div className="flex gap-3">
          {/* biome-ignore lint/a11y/noAutofocus: keeping it is what Enter does */}
          <button type="button" className="btn go" autoFocus onClick={close}>
            Cancel <kbd>Esc</kbd>
          </button>
          <button
            type="button"
            className="btn danger"
            onClick={() => {
              close();
              archive();
            }}
          >
            Archive
          </button>
        </div>
      </div>
    </Cover>
  );
}
