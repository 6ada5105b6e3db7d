import { useQuery } from "@tanstack/react-query";
import type { StoredRecord } from "../api/client";
import { dayOf, timeOf } from "../model/when";
import { sessionQuery } from "../people/session";

/** What only paper says below a form: of which row it is, and when and by whom it was printed. */
export function Printed({ record }: { record: StoredRecord | undefined }) {
  const person = useQuery(sessionQuery).data?.person;
  const now = new Date();
  const row = record ? `row ${record.row}` : "not saved";
  return (
    <p className="printed">
      {[row, `printed ${dayOf(now)} ${timeOf(now)}`, person?.title].filter(Boolean).join(" · ")}
    </p>
  );
}
