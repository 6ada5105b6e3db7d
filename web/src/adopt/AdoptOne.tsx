import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { answered, api, type Schemas } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { counted, grouped } from "../model/counted";
import { TYPES } from "../model/types";
import { Trouble } from "../ui/Trouble";

type Adoption = Schemas["AdoptionJson"];

/** What adopting a table comes to, and the button that does it. */
export function AdoptOne() {
  const path = { schema: useParams().schema ?? "", name: useParams().name ?? "" };
  const [key, setKey] = useState<string>();
  const preview = useQuery({
    queryKey: queryKeyOf("adoptable", path.schema, path.name, key),
    queryFn: () => answered(api.GET("/api/adoptable/{schema}/{name}", { params: { path, query: { key } } })),
    placeholderData: (last) => last,
  });
  const adoption = preview.data;
  return (
    <main className="place">
      <header className="top">
        <h1>Adopt</h1>
        <span className="chip">
          <span className="font-mono">
            {path.schema}.{path.name}
          </span>
        </span>
        {adoption && <span className="text-soft">{counted(adoption.rows, "row")}</span>}
      </header>
      <div className="grid auto-rows-max content-start gap-4 overflow-auto p-5">
        <Trouble error={preview.error} />
        {preview.isPending && <p role="status">Looking at its columns and rows …</p>}
        {adoption && (
          <>
            {adoption.refused.length > 0 ? (
              <section className="box grid gap-2 p-4" aria-label="Why not">
                <h2>It can't be adopted as it is</h2>
                <ul className="list-disc pl-5">
                  {adoption.refused.map((why) => (
                    <li key={why}>{why}</li>
                  ))}
                </ul>
              </section>
            ) : (
              <Adopting key={adoption.schema + adoption.name} adoption={adoption} setKey={setKey} />
            )}
            <Becomes adoption={adoption} />
            {adoption.held.length > 0 && (
              <section className="box grid gap-2 p-4" aria-label="What holds">
                <h2>What holds there, and goes on to hold</h2>
                <ul className="grid gap-1 text-[14px]">
                  {adoption.held.map((each) => (
                    <li key={each.name} className="font-mono">
                      {each.what} <span className="text-soft">({each.name})</span>
                    </li>
                  ))}
                </ul>
              </section>
            )}
            {adoption.statements.length > 0 && (
              <details className="box p-4">
                <summary className="cursor-pointer font-semibold">
                  All that is done, as SQL ({adoption.statements.length} statements)
                </summary>
                <pre className="mt-3 text-[13px] wrap-anywhere whitespace-pre-wrap">
                  {adoption.statements.map((each) => `${each};`).join("\n\n")}
                </pre>
              </details>
            )}
          </>
        )}
      </div>
    </main>
  );
}

function Adopting({ adoption, setKey }: { adoption: Adoption; setKey: (key: string) => void }) {
  const [title, setTitle] = useState(adoption.title);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => input.current?.focus(), []);
  const adopt = useMutation({
    mutationFn: () =>
      answered(
        api.POST("/api/adoptable/{schema}/{name}", {
          params: { path: { schema: adoption.schema, name: adoption.name } },
          body: { title, key: adoption.key },
        }),
      ),
    onSuccess: (made) => {
      queries.invalidateQueries();
      navigate(`/tables/${made.table}`);
    },
  });
  const columns = adoption.added.filter((each) => each.startsWith("column "));
  return (
    <section className="box grid gap-3 p-4" aria-label="Adopting it">
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          adopt.mutate();
        }}
      >
        <label className="grid gap-1 font-semibold">
          Name of the table here
          <input
            ref={input}
            className="entry w-80! font-normal"
            value={title}
            maxLength={120}
            onChange={(e) => setTitle(e.target.value)}
          />
        </label>
        {adoption.keys.length > 0 && (
          <label className="grid gap-1 font-semibold">
            Its records are told apart by
            <select
              className="entry font-normal"
              value={adoption.key ?? ""}
              onChange={(e) => setKey(e.target.value)}
            >
              {adoption.keys.map((key) => (
                <option key={key}>{key}</option>
              ))}
            </select>
          </label>
        )}
        <button type="submit" className="btn go" disabled={adopt.isPending || title.trim() === ""}>
          {adopt.isPending
            ? "Adopting it …"
            : adoption.view
              ? "Show it here and make a form"
              : "Adopt it and make a form"}
        </button>
        <button type="button" className="btn" onClick={() => navigate("/tables/adopt")}>
          Cancel
        </button>
      </form>
      <Trouble error={adopt.error} />
      {adoption.view ? (
        <p className="max-w-prose">
          It is a view: its records are found and shown, and nobody enters or changes them here. Nothing is
          added to it. <em className="not-italic font-semibold">Let go</em> takes it from the list again.
        </p>
      ) : (
        <dl className="grid max-w-4xl grid-cols-[10rem_1fr] gap-x-4 gap-y-2">
          <dt className="font-semibold">Locked for</dt>
          <dd>
            {seconds(adoption.lock ?? 0)}, in which no program can read or write it. (Measured on a copy of up
            to 20,000 of its rows.)
          </dd>
          <dt className="font-semibold">Added to it</dt>
          <dd>
            <span className="font-mono text-[14px]">
              {columns.map((each) => each.replace("column ", "")).join(", ")}
            </span>
            ; {adoption.added.filter((each) => !each.startsWith("column ")).join("; ")}. Programs that read{" "}
            <span className="font-mono text-[14px]">select *</span> see the new columns.
          </dd>
          <dt className="font-semibold">From then on</dt>
          <dd>
            rows that any program writes get their number, version and history. Numbers that are none, endless
            dates and years beyond 9999 are refused from all of them in columns that Weft writes.
          </dd>
          <dt className="font-semibold">Undone by</dt>
          <dd>
            <em className="not-italic font-semibold">Let go</em>, on the table's page: all of that is removed,
            and its rows stay.
          </dd>
          {adoption.notes.length > 0 && (
            <>
              <dt className="font-semibold">To be known</dt>
              <dd>
                <ul className="grid gap-1">
                  {adoption.notes.map((note) => (
                    <li key={note}>{note}</li>
                  ))}
                </ul>
              </dd>
            </>
          )}
        </dl>
      )}
    </section>
  );
}

function seconds(lock: number): string {
  return lock < 1 ? "less than a second" : `about ${grouped(Math.ceil(lock))} s`;
}

function Becomes({ adoption }: { adoption: Adoption }) {
  return (
    <section className="box overflow-x-auto" aria-label="Columns">
      <table className="w-full border-separate border-spacing-0 text-left">
        <thead>
          <tr className="text-[13.5px] text-soft">
            {["Column there", "Type there", "Here", "Type here", "What is to be known"].map((heading) => (
              <th key={heading} className="border-b border-line px-4 py-2 font-semibold">
                {heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {adoption.columns.map(({ base, type, column }) => (
            <tr key={column.name} className="align-top">
              <td className="px-4 py-1.5 font-mono text-[14px]">{base.join(", ")}</td>
              <td className="px-4 py-1.5 font-mono text-[14px] text-soft">{type.join(", ")}</td>
              <td className="px-4 py-1.5 font-semibold">{column.title}</td>
              <td className="px-4 py-1.5">
                {TYPES[column.type]}
                {column.to ? ` to ${column.to}` : ""}
              </td>
              <td className="px-4 py-1.5">
                {column.shownOnly ? (
                  <span className="text-weld">Shown only. {column.shownOnly}</span>
                ) : (
                  <span className="text-soft">
                    {[
                      column.required ? "needed" : "",
                      column.unique ? "no two alike" : "",
                      column.longest ? `${column.longest} characters at most` : "",
                      column.choices.join(" · "),
                    ]
                      .filter(Boolean)
                      .join(", ")}
                  </span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
