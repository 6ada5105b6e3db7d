import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type RefObject, useEffect, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { answered, api, type ImportReport, type Schemas } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { tableQuery } from "../api/queries";
import { counted, grouped } from "../model/counted";
import { Trouble } from "../ui/Trouble";
import { Goes } from "./Goes";
import { Misfits } from "./Misfits";
import { Preview } from "./Preview";

type Asked = Schemas["AppendAsked"];
type Report = Schemas["AppendReport"];

/** What the rows of a file come to in a table that exists, and the button that brings them in. */
export function Append({ file, into }: { file: ImportReport; into: string }) {
  const [asked, setAsked] = useState<Asked>({});
  const [done, setDone] = useState<Schemas["Appended"]>();
  const table = useQuery(tableQuery(into)).data;
  const path = { id: file.id, table: into };
  const look = useQuery({
    queryKey: queryKeyOf("append", path, asked),
    queryFn: () =>
      answered(api.POST("/api/imports/{id}/into/{table}/look", { params: { path }, body: asked })),
    placeholderData: (last) => last,
    enabled: !done,
    retry: false,
  });
  const report = look.data;
  if (done) return <Done done={done} into={into} title={report?.title ?? into} />;
  return (
    <>
      <Trouble error={look.error} />
      {look.isPending && <p role="status">Looking through every cell…</p>}
      {report && table && (
        <>
          <Comes
            path={path}
            asked={asked}
            report={report}
            busy={look.isFetching}
            failed={look.isError}
            done={setDone}
          />
          <Goes report={report} columns={table.columns} change={setAsked} />
          <Misfits
            report={{
              format: file.format,
              beyond: report.beyond,
              columns: report.columns.map((column) => ({ ...column, name: column.into ?? "" })),
            }}
          />
          <Preview
            numbered={false}
            report={{
              columns: report.columns.flatMap((column) => {
                const to = table.columns.find((each) => each.name === column.into);
                return to ? [{ ...column, name: to.name, title: to.title, type: to.type }] : [];
              }),
              preview: report.preview.map((row) =>
                report.columns.flatMap(({ into: to }) => (to ? [row[to]] : [])),
              ),
            }}
          />
        </>
      )}
    </>
  );
}

interface Coming {
  path: { id: string; table: string };
  asked: Asked;
  report: Report;
  busy: boolean;
  failed: boolean;
  done: (done: Schemas["Appended"]) => void;
}

function Comes({ path, asked: how, report, busy, failed, done }: Coming) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const button = useRef<HTMLButtonElement>(null);
  const open = report.columns.filter((column) => column.askDayOrder || column.askDecimalSign);
  const misfits = report.columns.reduce((sum, column) => sum + column.misfitCount, report.beyond.length);
  const changing = report.how === "replace" ? report.changing : 0;
  const bring = useMutation({
    mutationFn: () =>
      answered(
        api.POST("/api/imports/{id}/into/{table}", {
          params: { path },
          body: { ...how, answered: report.asked.many },
        }),
      ),
    onSuccess: (made) => {
      queries.invalidateQueries({ queryKey: queryKeyOf("table") });
      done(made);
    },
  });
  const asked = useRef<HTMLElement>(null);
  // What is asked about is read first: who holds Enter still brings nothing in.
  useEffect(() => (asked.current ?? button.current)?.focus(), []);
  return (
    <section className="box grid gap-3 p-4" aria-label="What it comes to">
      <p className="text-[17px]">
        <strong>{counted(report.added, "row is new", "rows are new")}</strong> of {grouped(report.rows)}
        {report.added > 0 && <>, and get the next free rows of {report.title}</>}. {there(report)}
      </p>
      {report.faults.length > 0 && (
        <ul className="grid gap-1 rounded-md bg-madder-wash px-3 py-2 font-medium text-madder">
          {report.faults.map((fault) => (
            <li key={fault}>{fault}</li>
          ))}
        </ul>
      )}
      <AskedAbout asked={report.asked} frame={asked} />
      {report.examples.length > 0 && (
        <details>
          <summary className="cursor-pointer">Which are there already</summary>
          <ul className="mt-1 grid gap-0.5 text-[14px] text-soft">
            {report.examples.map((each) => (
              <li key={each.line}>
                line {each.line} is row {each.row}
                {each.changes ? ", and says something else" : ", and says the same"}
              </li>
            ))}
            {report.doubles > report.examples.length && (
              <li>and {grouped(report.doubles - report.examples.length)} more</li>
            )}
          </ul>
        </details>
      )}
      <div className="flex flex-wrap items-center gap-3">
        <button
          type="button"
          ref={button}
          className="btn go"
          disabled={
            busy ||
            failed ||
            bring.isPending ||
            misfits > 0 ||
            open.length > 0 ||
            report.faults.length > 0 ||
            report.added + changing === 0
          }
          onClick={() => bring.mutate()}
        >
          {bring.isPending
            ? "Bringing them in…"
            : changing > 0
              ? `Bring in ${counted(report.added, "row", "rows")} and change ${counted(changing, "record", "records")}`
              : `Bring in ${counted(report.added, "row", "rows")}`}
          {report.asked.many > 0 && !bring.isPending && " all the same"}
        </button>
        <button type="button" className="btn" onClick={() => navigate(`/tables/${path.table}`)}>
          Cancel
        </button>
        {open.length > 0 && (
          <p className="font-medium text-weld">
            First say below how dates or numbers are written in{" "}
            {open.map((column) => column.title).join(", ")}.
          </p>
        )}
        {misfits > 0 && <p className="font-medium text-madder">First mend the cells that do not fit.</p>}
        <span role="status" className="text-soft">
          {busy ? "Looking through every cell…" : ""}
        </span>
      </div>
      <Trouble error={bring.error} />
    </section>
  );
}

/** The rows that would be asked about, were they keyed. */
function AskedAbout({ asked, frame }: { asked: Report["asked"]; frame: RefObject<HTMLElement | null> }) {
  if (asked.many === 0 && !asked.partly) return null;
  const rest = asked.many - asked.first.length;
  return (
    <section
      ref={frame}
      tabIndex={-1}
      className="grid max-h-72 gap-1 overflow-auto rounded-md bg-weld-wash px-3 py-2"
      aria-label="Asked about"
    >
      <h3 className="font-medium text-weld">{counted(asked.many, "row is", "rows are")} asked about</h3>
      <ul className="grid gap-0.5">
        {asked.first.map(({ line, finding }) => (
          <li key={line}>
            <b>Line {line}:</b> {finding.message}
          </li>
        ))}
        {rest > 0 && <li>and {grouped(rest)} more</li>}
        {asked.partly && (
          <li>
            Not all rows were held against the rules: there are very many, or very many are asked about.
          </li>
        )}
      </ul>
    </section>
  );
}

/** What becomes of the rows that are there already. */
function there(report: Report): string {
  const again = report.repeated
    ? ` ${counted(report.repeated, "comes", "come")} again in the file itself.`
    : "";
  if (report.doubles === 0) return again.trim();
  const are = counted(report.doubles, "row is there already", "rows are there already");
  if (report.how === "replace")
    return `${are}; ${counted(report.changing, "record is", "records are")} changed by that.${again}`;
  return report.how === "skip" ? `${are}, and left out.${again}` : `${are}.${again}`;
}

function Done({ done, into, title }: { done: Schemas["Appended"]; into: string; title: string }) {
  const queries = useQueryClient();
  const table = useRef<HTMLAnchorElement>(null);
  const back = useMutation({
    mutationFn: () =>
      answered(
        api.POST("/api/tables/{table}/changes/{id}/take-back", {
          params: { path: { table: into, id: done.change ?? 0 } },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: queryKeyOf("table") }),
  });
  useEffect(() => table.current?.focus(), []);
  return (
    <section className="box grid gap-3 p-4" aria-label="Brought in">
      <p role="status" className="text-[17px]">
        {back.isSuccess
          ? `Taken back: ${title} is as it was before.`
          : `${counted(done.added, "row was", "rows were")} brought into ${title}${done.replaced ? `, and ${counted(done.replaced, "record was", "records were")} changed` : ""}. ${done.left ? `${grouped(done.left)} were left out.` : ""}`}
      </p>
      <div className="flex gap-3">
        <Link ref={table} className="btn go" to={`/tables/${into}`}>
          See {title}
        </Link>
        {!back.isSuccess && (
          <button type="button" className="btn" disabled={back.isPending} onClick={() => back.mutate()}>
            {back.isPending ? "Taking it back…" : "Take it back"}
          </button>
        )}
      </div>
      <Trouble error={back.error} />
    </section>
  );
}
