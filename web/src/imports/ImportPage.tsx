import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useLocation, useNavigate, useParams, useSearchParams } from "react-router";
import { answered, api, type ColumnReport, type ImportReport, type Schemas } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { counted, grouped } from "../model/counted";
import { Trouble } from "../ui/Trouble";
import { Append } from "./Append";
import { ColumnList } from "./ColumnList";
import { Misfits } from "./Misfits";
import { Preview } from "./Preview";

/** What a file would become: its columns and why, its first rows as they would be stored, and what does not fit. Or what it brings into a table. */
export function ImportPage() {
  const id = useParams().id ?? "";
  const into = useSearchParams()[0].get("into");
  const queries = useQueryClient();
  const key = queryKeyOf("import", id);
  const report = useQuery({
    queryKey: key,
    queryFn: () => answered(api.GET("/api/imports/{id}", { params: { path: { id } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const look = useMutation({
    mutationFn: (columns: Schemas["FileColumn"][]) =>
      answered(api.POST("/api/imports/{id}/look", { params: { path: { id } }, body: { columns } })),
    onSuccess: (changed) => queries.setQueryData(key, changed),
  });
  const turn = useMutation({
    mutationFn: (sheet: number) =>
      answered(api.POST("/api/imports/{id}/sheet", { params: { path: { id } }, body: { sheet } })),
    onSuccess: (turned) => queries.setQueryData(key, turned),
  });
  const change = (at: number, changed: Partial<ColumnReport>) => {
    if (!report.data) return;
    const columns = report.data.columns.map((column, i) => (i === at ? { ...column, ...changed } : column));
    queries.setQueryData(key, { ...report.data, columns });
    look.mutate(asked(columns));
  };
  return (
    <main className="place">
      <header className="top">
        <h1>Bring in rows</h1>
        {into && <span className="text-soft">into {into}</span>}
        {report.data && <span className="chip">{counted(report.data.rows, "row")}</span>}
        {report.data && <span className="chip">{counted(report.data.columns.length, "column")}</span>}
        <span role="status" className="text-soft">
          {look.isPending || turn.isPending ? "Looking through every cell…" : ""}
        </span>
      </header>
      <div className="flex min-h-0 flex-col gap-4 overflow-auto p-5 [&>*]:flex-none">
        <Trouble error={report.error ?? look.error ?? turn.error} />
        {report.data && report.data.sheets.length > 1 && (
          <label className="flex items-center gap-3 font-semibold">
            Sheet
            <select
              className="entry w-auto! font-normal"
              value={report.data.sheet}
              disabled={turn.isPending}
              onChange={(e) => turn.mutate(Number(e.target.value))}
            >
              {report.data.sheets.map((name, at) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: sheets are known by their place
                <option key={at} value={at}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        )}
        {report.data && into && <Append key={report.data.sheet} file={report.data} into={into} />}
        {report.data && !into && (
          <>
            <Load key={report.data.sheet} report={report.data} busy={look.isPending || turn.isPending} />
            <ColumnList columns={report.data.columns} change={change} />
            <Misfits report={report.data} />
            <Preview report={report.data} />
          </>
        )}
      </div>
    </main>
  );
}

function asked(columns: ColumnReport[]): Schemas["FileColumn"][] {
  return columns.map(({ name, title, type, scale, dayOrder, decimalSign, askDecimalSign }, from) => ({
    from,
    name,
    title,
    type: type ?? undefined,
    scale,
    dayOrder,
    decimalSign: askDecimalSign ? undefined : decimalSign,
  }));
}

/** Gives the rows that do not fit as a file, each with the reason beside it, to be put right and brought in. */
async function exportLeft(id: string, columns: Schemas["FileColumn"][]) {
  const text = await answered(
    api.POST("/api/imports/{id}/left", { params: { path: { id } }, body: { columns }, parseAs: "text" }),
  );
  const address = URL.createObjectURL(new Blob([text as unknown as string], { type: "text/csv" }));
  Object.assign(document.createElement("a"), { href: address, download: "left-out.csv" }).click();
  URL.revokeObjectURL(address);
}

function Load({ report, busy }: { report: ImportReport; busy: boolean }) {
  const [title, setTitle] = useState(report.title);
  const navigate = useNavigate();
  // Who came with rows to go on with keys the next one; who brought a file looks at its rows.
  const toDesk = (useLocation().state as { keying?: boolean } | null)?.keying;
  const queries = useQueryClient();
  const button = useRef<HTMLButtonElement>(null);
  const misfits = report.columns.reduce((sum, column) => sum + column.misfitCount, report.beyond.length);
  const open = report.columns.filter((column) => column.askDayOrder || column.askDecimalSign);
  const load = useMutation({
    mutationFn: async (unfit: Schemas["TableFromFile"]["misfits"]) => {
      const columns = asked(report.columns);
      if (unfit === "leave") await exportLeft(report.id, columns);
      return answered(
        api.POST("/api/imports/{id}/table", {
          params: { path: { id: report.id } },
          body: { title, columns, misfits: unfit },
        }),
      );
    },
    onSuccess: (made) => {
      queries.invalidateQueries();
      navigate(toDesk ? `/d/${made.form}` : `/tables/${made.table}`);
    },
  });
  const progress = useQuery({
    queryKey: queryKeyOf("progress", report.id),
    queryFn: () => answered(api.GET("/api/imports/{id}/progress", { params: { path: { id: report.id } } })),
    enabled: load.isPending,
    refetchInterval: 250,
  });
  const giveUp = () => api.DELETE("/api/imports/{id}", { params: { path: { id: report.id } } });
  useEffect(() => button.current?.focus(), []);
  return (
    <section className="box grid gap-3 p-4" aria-label="The table">
      <div className="flex flex-wrap items-end gap-3">
        <label className="grid gap-1 font-semibold">
          Name of the table
          <input
            className="entry w-80! font-normal"
            value={title}
            maxLength={120}
            onChange={(e) => setTitle(e.target.value)}
          />
        </label>
        <button
          type="button"
          ref={button}
          className="btn go"
          disabled={busy || load.isPending || open.length > 0 || title.trim() === ""}
          onClick={() => load.mutate(misfits > 0 ? "leave" : "stop")}
        >
          {misfits > 0
            ? "Load the rows that fit, and get the others as a file"
            : "Make the table and its form"}
        </button>
        {misfits > 0 && (
          <button
            type="button"
            className="btn"
            disabled={busy || load.isPending || open.length > 0 || title.trim() === ""}
            onClick={() => load.mutate("empty")}
          >
            Load, with {counted(misfits, "cell")} left empty
          </button>
        )}
        <button
          type="button"
          className="btn"
          onClick={() => (load.isPending ? giveUp() : navigate("/tables/new"))}
        >
          Cancel
        </button>
        {open.length > 0 && (
          <p className="font-medium text-weld">
            First say below how dates or numbers are written in{" "}
            {open.map((column) => column.title).join(", ")}.
          </p>
        )}
      </div>
      {load.isPending && (
        <div role="status">
          <progress
            className="progress w-full"
            aria-label="Rows loaded"
            value={progress.data?.loaded ?? 0}
            max={report.rows}
          />
          {grouped(progress.data?.loaded ?? 0)} of {counted(report.rows, "row")}
        </div>
      )}
      <Trouble error={load.error} />
    </section>
  );
}
