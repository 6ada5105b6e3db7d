import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { answered, api, Problem } from "../api/client";
import { BringFile } from "../imports/BringFile";
import { Trouble } from "../ui/Trouble";
import { headings } from "./headings";
import { TYPES } from "./types";

/** A table from a file of rows, or from headings typed or pasted; either way its form is made at once. */
export function NewTable() {
  return (
    <main className="place">
      <header className="top">
        <h1>Make a table</h1>
      </header>
      <div className="overflow-auto p-5">
        <div className="grid max-w-6xl gap-5 lg:grid-cols-2">
          <section className="box p-5">
            <h2>From headings</h2>
            <FromHeadings />
          </section>
          <section className="box p-5">
            <h2>From a file of rows</h2>
            <p className="mt-1 mb-3 text-soft">
              A CSV file with a line of headings. You see what each column becomes before anything is written.
            </p>
            <BringFile />
          </section>
        </div>
      </div>
    </main>
  );
}

function FromHeadings() {
  const [title, setTitle] = useState("");
  const [typed, setTyped] = useState("");
  const [types, setTypes] = useState<Record<string, string>>({});
  const navigate = useNavigate();
  const queries = useQueryClient();
  const columns = headings(typed);
  const make = useMutation({
    mutationFn: async () => {
      const table = await answered(
        api.POST("/api/tables", {
          body: {
            title,
            columns: columns.map((column) => ({ title: column, type: types[column] ?? "text" })),
          },
        }),
      );
      return answered(api.POST("/api/forms", { body: { table: table.name } }));
    },
    onSuccess: (form) => {
      queries.invalidateQueries();
      navigate(`/d/${form.id}`);
    },
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    make.mutate();
  };
  const nameTaken = make.error instanceof Problem && make.error.errors.some((each) => each.where === "name");
  return (
    <form onSubmit={submit} className="mt-3 grid gap-4">
      <label className="grid gap-1 font-semibold">
        Name of the table
        <input
          className="entry font-normal"
          value={title}
          onChange={(e) => setTitle(e.target.value)}
          // biome-ignore lint/a11y/noAutofocus: the page is opened to type here
          autoFocus
          maxLength={120}
          aria-invalid={nameTaken}
          placeholder="Samples"
        />
      </label>
      <label className="grid gap-1 font-semibold">
        Headings
        <textarea
          className="entry py-2 font-normal"
          rows={5}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          aria-describedby="headings-help"
          placeholder={"Site\nTaken on\npH"}
        />
        <small id="headings-help" className="font-normal text-soft">
          One a line, or paste a row copied from a spreadsheet.
        </small>
      </label>
      {columns.length > 0 && (
        <ul className="grid max-h-72 gap-1 overflow-auto" aria-label="Columns">
          {columns.map((column, at) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: two headings may be alike, and their order is theirs
            <li key={`${column}-${at}`} className="flex items-center gap-3">
              <span className="min-w-0 flex-1 truncate">{column}</span>
              <select
                className="entry min-h-8! w-44! text-[14px]!"
                aria-label={`Type of ${column}`}
                value={types[column] ?? "text"}
                onChange={(e) => setTypes({ ...types, [column]: e.target.value })}
              >
                {Object.entries(TYPES).map(([type, words]) => (
                  <option key={type} value={type}>
                    {words}
                  </option>
                ))}
              </select>
            </li>
          ))}
        </ul>
      )}
      <Trouble error={make.error} />
      <div>
        <button
          type="submit"
          className="btn go"
          disabled={make.isPending || columns.length === 0 || title.trim() === ""}
        >
          Make the table and its form
        </button>
      </div>
    </form>
  );
}
