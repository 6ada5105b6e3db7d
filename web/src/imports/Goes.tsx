import type { Column, Schemas } from "../api/client";
import { grouped } from "../model/counted";
import { DAY_ORDERS, DECIMAL_SIGNS, Ways } from "./Ways";

type Asked = Schemas["AppendAsked"];

interface Props {
  report: Schemas["AppendReport"];
  columns: Column[];
  change: (asked: Asked) => void;
}

/** Which column of the file goes into which of the table's, and by which of them a row is known to be there already. */
export function Goes({ report, columns, change }: Props) {
  const now = (): Required<Omit<Asked, "answered">> => ({
    columns: report.columns.map(({ from, into, dayOrder, decimalSign }) => ({
      from,
      into,
      dayOrder,
      decimalSign,
    })),
    key: report.key,
    doubles: report.how,
  });
  const goes = (from: number, changed: Partial<Schemas["GoesAsked"]>) => {
    const to = now();
    const all = (to.columns ?? []).map((each) => (each.from === from ? { ...each, ...changed } : each));
    const there = all.map((each) => each.into);
    change({ ...to, columns: all, key: (to.key ?? []).filter((name) => there.includes(name)) });
  };
  const typed = columns.filter((column) => !column.shownOnly);
  const into = typed.filter((column) => report.columns.some((each) => each.into === column.name));
  return (
    <>
      <section
        className="box flex flex-wrap items-start gap-x-10 gap-y-3 p-4"
        aria-label="Rows that are there already"
      >
        <fieldset>
          <legend className="mb-1 font-semibold">A row is there already when these are the same</legend>
          <div className="flex flex-wrap gap-x-4 gap-y-1">
            {into.map((column) => (
              <label key={column.name} className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  checked={report.key.includes(column.name)}
                  onChange={(e) =>
                    change({
                      ...now(),
                      key: e.target.checked
                        ? [...report.key, column.name]
                        : report.key.filter((name) => name !== column.name),
                    })
                  }
                />
                {column.title}
              </label>
            ))}
          </div>
        </fieldset>
        <label className="grid gap-1 font-semibold">
          Then it is
          <select
            className="entry w-auto! font-normal"
            value={report.how}
            disabled={report.key.length === 0}
            onChange={(e) => change({ ...now(), doubles: e.target.value as Schemas["IntoDoubles"] })}
          >
            <option value="skip">left out</option>
            <option value="replace">replace the record</option>
            <option value="refuse">in the way of all</option>
          </select>
        </label>
      </section>
      <section className="box overflow-x-auto" aria-label="Columns">
        <table className="w-full border-separate border-spacing-0 text-left">
          <thead>
            <tr className="text-[13.5px] text-soft">
              {["Column of the file", "Goes into", "How it is written", "Does not fit"].map((heading) => (
                <th key={heading} className="border-b border-line px-3 py-2 font-semibold">
                  {heading}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {report.columns.map((column) => (
              <tr
                key={column.from}
                className={column.askDayOrder || column.askDecimalSign ? "bg-weld-wash" : ""}
              >
                <td className="px-3 py-1 font-semibold">{column.title}</td>
                <td className="w-64 px-3 py-1">
                  <select
                    className="entry min-h-8! text-[14px]!"
                    aria-label={`${column.title} goes into`}
                    value={column.into ?? ""}
                    onChange={(e) => goes(column.from, { into: e.target.value || undefined })}
                  >
                    <option value="">nothing: left out</option>
                    {typed.map((each) => (
                      <option key={each.name} value={each.name}>
                        {each.title}
                      </option>
                    ))}
                  </select>
                </td>
                <td className="px-3 py-1 text-[14px]">
                  {column.into && (column.askDayOrder || column.dayOrder) && (
                    <Ways
                      name={`Which comes first in ${column.title}`}
                      ways={DAY_ORDERS}
                      chosen={column.dayOrder}
                      choose={(dayOrder) => goes(column.from, { dayOrder })}
                    />
                  )}
                  {column.askDecimalSign && (
                    <Ways
                      name={`How numbers are written in ${column.title}`}
                      ways={DECIMAL_SIGNS}
                      chosen={null}
                      choose={(decimalSign) => goes(column.from, { decimalSign })}
                    />
                  )}
                </td>
                <td className="px-3 py-1 text-[14px] text-madder">
                  {column.misfitCount > 0 ? grouped(column.misfitCount) : ""}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </>
  );
}
