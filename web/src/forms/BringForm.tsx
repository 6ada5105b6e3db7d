import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answered, api } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { tablesQuery } from "../api/queries";
import { Cover } from "../ui/Cover";
import { Trouble } from "../ui/Trouble";

/** Brings in a form that was exported elsewhere, and says which of its threads could not be tied. */
export function BringForm({ close }: { close: () => void }) {
  const tables = useQuery(tablesQuery).data ?? [];
  const queries = useQueryClient();
  const [file, setFile] = useState<File>();
  const [table, setTable] = useState("");
  const [error, setError] = useState<Error | null>(null);
  const [brought, setBrought] = useState<{
    form: string;
    title: string;
    untied: { label: string; column: string }[];
  }>();
  const into = table || tables[0]?.name || "";
  const bring = async () => {
    if (!file) return;
    try {
      const parsed = JSON.parse(await file.text());
      setBrought(await answered(api.POST("/api/forms/brought", { body: { table: into, file: parsed } })));
      queries.invalidateQueries({ queryKey: queryKeyOf("forms") });
    } catch (e) {
      setError(
        e instanceof SyntaxError
          ? new Error("This is no form file. Choose one that a form was exported to.")
          : (e as Error),
      );
    }
  };
  return (
    <Cover name="Bring a form in" close={close}>
      <form
        className="grid gap-3 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          bring();
        }}
      >
        <h2>Bring a form in</h2>
        {brought ? (
          <>
            <p>
              {brought.title} is there.{" "}
              {brought.untied.length === 0
                ? "Every field found its column."
                : "These fields found no column of their name:"}
            </p>
            <ul className="list-disc pl-5">
              {brought.untied.map((each) => (
                <li key={each.label + each.column}>
                  {each.label}, threaded to <span className="font-mono">{each.column}</span>
                </li>
              ))}
            </ul>
            <Link className="btn go justify-self-start" to={`/bench/${brought.form}`}>
              Open it on the Bench
            </Link>
          </>
        ) : (
          <>
            <label className="grid gap-1">
              Form file
              <input
                type="file"
                accept=".json,application/json"
                onChange={(e) => setFile(e.target.files?.[0])}
              />
            </label>
            <label className="grid gap-1">
              Table that it writes to
              <select className="entry" value={into} onChange={(e) => setTable(e.target.value)}>
                {tables.map((each) => (
                  <option key={each.name} value={each.name}>
                    {each.title}
                  </option>
                ))}
              </select>
            </label>
            <Trouble error={error} />
            <button type="submit" className="btn go justify-self-start" disabled={!file || !into}>
              Bring it in
            </button>
          </>
        )}
      </form>
    </Cover>
  );
}
