import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link, useParams } from "react-router";
import type { Table } from "../api/client";
import { doorsQuery, tableQuery } from "../api/queries";
import { Trouble } from "../ui/Trouble";

/** A place of the table that the address names, with the way back to it. */
export function OfTable({ what, children }: { what: string; children: (table: Table) => ReactNode }) {
  const name = useParams().table ?? "";
  const table = useQuery(tableQuery(name));
  return (
    <main className="place">
      <header className="top">
        <h1>
          {what} in {table.data?.title ?? name}
        </h1>
        <span className="flex-1" />
        <Link className="btn quiet" to={`/tables/${name}`}>
          Back to the table
        </Link>
      </header>
      <div className="overflow-auto p-5">
        <Trouble error={table.error} />
        {table.data && children(table.data)}
      </div>
    </main>
  );
}

/** The door by which all records of a table are seen, if there is one: a form's own, which leaves nothing out. */
export const useOwnDoor = (table: Table): string | undefined =>
  (useQuery(doorsQuery).data ?? []).find((door) => door.table === table.name && door.id === door.form)?.id;
