import { shown } from "../model/shown";

interface Previewed {
  columns: { name: string; title: string; type: string; askDayOrder: boolean; askDecimalSign: boolean }[];
  preview: unknown[][];
}

/**
 * The first rows as they would be stored.
 *
 * @param numbered whether the row of each is known
 */
export function Preview({ report, numbered = true }: { report: Previewed; numbered?: boolean }) {
  const open = report.columns.some((column) => column.askDayOrder || column.askDecimalSign);
  return (
    <section
      className="box min-w-0 overflow-auto"
      aria-label="First rows as they will be stored"
      tabIndex={0}
    >
      <h2 className="sticky left-0 px-3 pt-3">
        {open ? "First rows, as one could read them" : "First rows as they will be stored"}
      </h2>
      <table className="border-separate border-spacing-0 text-left font-mono text-[13.5px]">
        <thead>
          <tr>
            {numbered && (
              <th className="border-b border-line px-3 py-1.5 text-right font-sans text-soft">row</th>
            )}
            {report.columns.map((column) => (
              <th key={column.name} className="border-b border-line px-3 py-1.5 font-sans whitespace-nowrap">
                {column.title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {report.preview.map((row, at) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a row of the preview is its place
            <tr key={at}>
              {numbered && (
                <td className="border-b border-line px-3 py-1 text-right font-semibold text-woad">
                  {at + 1}
                </td>
              )}
              {row.map((value, i) => (
                <td
                  key={report.columns[i]?.name}
                  className={`max-w-64 truncate border-b border-line px-3 py-1 ${/^(whole|decimal)$/.test(report.columns[i]?.type ?? "") ? "text-right" : ""}`}
                >
                  {shown(value, report.columns[i]?.type)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
