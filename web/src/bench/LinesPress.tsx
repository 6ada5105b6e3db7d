import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { answered, api, type Form, type FormItem } from "../api/client";
import { queryKeyOf } from "../api/keys";
import type { FormLines } from "../entry/sheet";

/** The lines that could stand on a form: of each table that links to its table. */
export const linesOffered = (form: string) => ({
  queryKey: queryKeyOf("lines-offered", form),
  queryFn: async () =>
    (await answered(
      api.GET("/api/forms/{form}/bench/lines", { params: { path: { form } } }),
    )) as unknown as FormLines[],
});

/** Adds lines of another table to the form; where several link to it, one is chosen. */
export function LinesPress({ form, add }: { form: Form; add: (item: FormItem) => void }) {
  const offered = useQuery(linesOffered(form.id)).data ?? [];
  const [open, setOpen] = useState(false);
  const none = offered.length === 0;
  return (
    <>
      <button
        type="button"
        className="press"
        disabled={none}
        title={none ? "No table links to this one yet. Give one a link first." : undefined}
        aria-expanded={offered.length > 1 ? open : undefined}
        onClick={() => (offered.length === 1 && offered[0] ? add(offered[0]) : setOpen(!open))}
      >
        <Plus size={12} aria-hidden="true" />
        Lines
      </button>
      {open &&
        offered.map((lines) => (
          <button
            key={lines.table + lines.by}
            type="button"
            className="press"
            onClick={() => {
              add(lines);
              setOpen(false);
            }}
          >
            {lines.label} by {lines.by}
          </button>
        ))}
    </>
  );
}
