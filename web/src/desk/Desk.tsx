import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { publishedQuery, tableQuery } from "../api/queries";
import { Trouble } from "../ui/Trouble";
import { DeskOf } from "./DeskOf";

/** The place where a published form is used on records. */
export function Desk() {
  const id = useParams().form ?? "";
  const form = useQuery(publishedQuery(id));
  const table = useQuery({ ...tableQuery(form.data?.table ?? ""), enabled: form.data !== undefined });
  if (form.data && table.data) return <DeskOf key={id} form={form.data} table={table.data} />;
  return (
    <main className="place">
      <header className="top">
        <h1>{form.data?.title ?? "Desk"}</h1>
      </header>
      <div className="p-5">
        <Trouble error={form.error ?? table.error} />
      </div>
    </main>
  );
}
