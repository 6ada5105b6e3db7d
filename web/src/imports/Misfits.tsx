import type { Schemas } from "../api/client";
import { grouped } from "../model/counted";

interface Looked {
  format: string;
  columns: { name: string; title: string; misfitCount: number; misfits: Schemas["MisfitJson"][] }[];
  beyond: Schemas["MisfitJson"][];
}

/** Every cell that can't be stored as it is, with the line of the file it stands on. */
export function Misfits({ report }: { report: Looked }) {
  const misfits = [...report.columns.flatMap((column) => column.misfits), ...report.beyond].sort(
    (a, b) => a.line - b.line,
  );
  if (misfits.length === 0) return null;
  const title = (name: string) =>
    report.columns.find((column) => column.name === name)?.title ?? "beyond the headings";
  const all = report.columns.reduce((sum, column) => sum + column.misfitCount, report.beyond.length);
  return (
    <section className="box max-h-64 overflow-auto p-4" aria-labelledby="misfits">
      <h2 id="misfits" className="text-madder">
        {all === 1 ? "One cell does not fit" : `${grouped(all)} cells do not fit`}
      </h2>
      {all > misfits.length && <p className="text-soft">The first {grouped(misfits.length)} are listed.</p>}
      <ul className="mt-2 grid gap-1">
        {misfits.map((misfit) => (
          <li key={`${misfit.line} ${misfit.column} ${misfit.cell}`} className="flex flex-wrap gap-x-3">
            <span className="w-20 font-mono text-soft">
              {report.format === "csv" ? "line" : "row"} {misfit.line}
            </span>
            <span className="font-semibold">{title(misfit.column)}</span>
            <span>{misfit.message}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
