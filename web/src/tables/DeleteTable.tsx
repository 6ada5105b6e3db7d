import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answered, api, type Table } from "../api/client";
import { dependentsQuery } from "../api/queries";
import { counted } from "../model/counted";
import { Cover } from "../ui/Cover";
import { Trouble } from "../ui/Trouble";

/** Deletes a table, or lets go of one that was adopted, once what goes with it is named, and its title is typed. */
export function DeleteTable({ table, close }: { table: Table; close: () => void }) {
  const doing = table.adopted ? "Let go" : "Delete";
  const [typed, setTyped] = useState("");
  const [error, setError] = useState<Error | null>(null);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const path = { table: table.name };
  const dependents = useQuery(dependentsQuery(table.name)).data;
  const remove = async () => {
    try {
      await answered(api.DELETE("/api/tables/{table}", { params: { path, query: { named: typed } } }));
      navigate("/tables");
      queries.invalidateQueries();
    } catch (e) {
      setError(e as Error);
    }
  };
  return (
    <Cover name={`${doing} ${table.adopted ? "of " : ""}${table.title}`} close={close}>
      <form
        className="grid gap-3 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          remove();
        }}
      >
        <h2>
          {doing} {table.adopted ? "of " : ""}
          {table.title}
        </h2>
        {dependents && (
          <p>
            {table.adopted
              ? `Its ${counted(dependents.records, "row")} ${dependents.records === 1 ? "stays" : "stay"} in place, in ${table.adopted}; the columns and triggers that were added to them are removed. With those go their row numbers and history`
              : `With it go ${counted(dependents.records, "record")} and all history`}
            {dependents.forms.length > 0 ? `, and these forms: ${dependents.forms.join(", ")}` : ""}. Nothing
            of it can be put back.
          </p>
        )}
        <label className="grid gap-1">
          Type the table's title, {table.title}, to {table.adopted ? "let it go" : "delete it"}
          <input
            className="entry"
            // biome-ignore lint/a11y/noAutofocus: it is all there is to do here
            autoFocus
            autoComplete="off"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
        </label>
        <Trouble error={error} />
        <div className="flex gap-3">
          <button type="button" className="btn" onClick={close}>
            Cancel <kbd>Esc</kbd>
          </button>
          <button type="submit" className="btn danger" disabled={typed !== table.title}>
            {table.adopted ? "Let it go" : "Delete the table"}
          </button>
        </div>
      </form>
    </Cover>
  );
}
