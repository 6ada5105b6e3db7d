import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { tableQuery, workingCopyQuery } from "../api/queries";
import { Trouble } from "../ui/Trouble";
import { BenchOf } from "./BenchOf";

/** The place where a form is made and changed. */
export function Bench() {
  const id = useParams().form ?? "";
  const copy = useQuery(workingCopyQuery(id));
  const table = useQuery({
    ...tableQuery(copy.data?.form.table ?? ""),
    enabled: copy.data !== undefined,
  });
  if (copy.data && table.data) return <BenchOf key={id} start={copy.data} table={table.data} />;
  return (
    <main className="place">
      <header className="top">
        <h1>Bench</h1>
      </header>
      <div className="p-5">
        <Trouble error={copy.error ?? table.error} />
      </div>
    </main>
  );
}
