import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link, useNavigate } from "react-router";
import { queryKeyOf } from "../api/keys";
import { BringFile } from "../imports/BringFile";
import { upload } from "../imports/upload";
import { Trouble } from "../ui/Trouble";
import { ofRows } from "./headings";

/** Pasted rows as a file that is looked through, under that name. */
export function usePastedRows() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ text, title }: { text: string; title: string }) =>
      upload(new File([text], `${title || "Pasted rows"}.csv`, { type: "text/csv" }), () => {}),
    onSuccess: (report) => {
      queries.setQueryData(queryKeyOf("import", report.id), report);
      navigate(`/imports/${report.id}`, { state: { keying: true } });
    },
  });
}

/** The three ways to a form of one's own: of a file, of rows that were copied, of headings. */
export function Ways() {
  const rows = usePastedRows();
  const { mutate } = rows;
  useEffect(() => {
    const pasted = (e: ClipboardEvent) => {
      const text = e.clipboardData?.getData("text/plain") ?? "";
      if (!ofRows(text)) return;
      e.preventDefault();
      mutate({ text, title: "" });
    };
    window.addEventListener("paste", pasted);
    return () => window.removeEventListener("paste", pasted);
  }, [mutate]);
  return (
    <>
      <BringFile />
      <section className="way" aria-label="Paste rows with their headings">
        <b>Paste rows with their headings</b>
        <span>as they were copied from anywhere: Ctrl+V on this page.</span>
        {rows.isPending && <p role="status">Looking through the rows…</p>}
        <Trouble error={rows.error} />
      </section>
      <Link className="way" to="/tables/new">
        <b>Type the headings</b>
        <span>Name, Born on, Score whole 0 to 100 …</span>
      </Link>
    </>
  );
}
