import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { publishedQuery, ruledQuery, tableQuery } from "../api/queries";
import { Trouble } from "../ui/Trouble";
import { DeskOf } from "./DeskOf";

/** The place where a published form is used on records. */
export function Desk() {
  const id = useParams().form ?? "";
  const published = useQuery(publishedQuery(id));
  const ruled = useQuery(ruledQuery(id));
  const form = published.data?.form;
  const table = useQuery({ ...tableQuery(form?.table ?? ""), enabled: form !== undefined });
  if (form && table.data && ruled.data) {
    return (
      <DeskOf key={id} form={form} version={published.data?.revision} table={table.data} ruled={ruled.data} />
    );
  }
  return (
    <main className="place">
      <header className="top">
        <h1>{form?.title ?? "Desk"}</h1>
      </header>
      <div className="p-5">
        <Trouble error={published.error ?? ruled.error ?? table.error} />
      </div>
    </main>
  );
}
