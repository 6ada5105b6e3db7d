import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { tableQuery } from "../api/queries";
import { BringFile } from "./BringFile";

/** Takes the file whose rows go into a table that exists. */
export function BringPage() {
  const name = useParams().table ?? "";
  const table = useQuery(tableQuery(name)).data;
  return (
    <main className="place">
      <header className="top">
        <h1>Bring rows into {table?.title ?? name}</h1>
      </header>
      <div className="grid auto-rows-max content-start gap-4 overflow-auto p-5">
        <p className="max-w-prose">
          A CSV, a spreadsheet (.ods) or JSON, with headings as the table's columns are called. You see what
          its rows come to before any of them is written.
        </p>
        <div className="max-w-3xl">
          <BringFile into={name} />
        </div>
      </div>
    </main>
  );
}
