import type { ColumnReport, ColumnType } from "../api/client";
import { counted } from "../model/counted";
import { TYPES } from "../model/types";
import { DAY_ORDERS, DECIMAL_SIGNS, Ways } from "./Ways";

interface Props {
  columns: ColumnReport[];
  change: (at: number, changed: Partial<ColumnReport>) => void;
}

/** Each column of the file: its title, the type it was taken for and why, each open to change. */
export function ColumnList({ columns, change }: Props) {
  return (
    <section className="box max-h-[46vh] overflow-auto" aria-label="Columns">
      <table className="w-full border-separate border-spacing-0 text-left">
        <thead className="sticky top-0 z-1 bg-paper">
          <tr className="text-[13.5px] text-soft">
            {["Title", "Type", "Why", "Does not fit"].map((heading) => (
              <th key={heading} className="border-b border-line px-3 py-2 font-semibold">
                {heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {columns.map((column, at) => (
            <tr
              key={column.name}
              className={column.askDayOrder || column.askDecimalSign ? "bg-weld-wash" : ""}
            >
              <td className="px-3 py-1">
                <input
                  className="entry min-h-8!"
                  aria-label={`Title of column ${at + 1}`}
                  defaultValue={column.title}
                  maxLength={120}
                  onBlur={(e) => e.target.value !== column.title && change(at, { title: e.target.value })}
                />
              </td>
              <td className="w-44 px-3 py-1">
                <select
                  className="entry min-h-8! text-[14px]!"
                  aria-label={`Type of ${column.title}`}
                  value={column.type}
                  onChange={(e) =>
                    change(at, { type: e.target.value as ColumnType, scale: null, to: null, shown: null })
                  }
                >
                  {Object.entries(TYPES)
                    .filter(([type]) => type !== "link" || column.type === "link")
                    .map(([type, words]) => (
                      <option key={type} value={type}>
                        {words}
                      </option>
                    ))}
                </select>
              </td>
              <td className="px-3 py-1 text-[14px]">
                <span className="text-soft">{column.reason}</span>
                {column.offers.map((offer) => {
                  const taken = column.type === "link" && column.to === offer.table;
                  return (
                    <span key={offer.table + offer.column} className="block">
                      Every value is in {offer.title}.{" "}
                      <button
                        type="button"
                        className="btn small quiet"
                        aria-pressed={taken}
                        onClick={() =>
                          change(
                            at,
                            taken
                              ? { type: "text", to: null, shown: null }
                              : { type: "link", to: offer.table, shown: [offer.column], scale: null },
                          )
                        }
                      >
                        {taken ? "Keep it as text" : `Link it to ${offer.title}`}
                      </button>
                    </span>
                  );
                })}
                {(column.askDayOrder || column.dayOrder) && (
                  <Ways
                    name={`Which comes first in ${column.title}`}
                    ways={DAY_ORDERS}
                    chosen={column.dayOrder}
                    choose={(dayOrder) => change(at, { dayOrder })}
                  />
                )}
                {column.askDecimalSign && (
                  <Ways
                    name={`How numbers are written in ${column.title}`}
                    ways={DECIMAL_SIGNS}
                    chosen={null}
                    choose={(decimalSign) =>
                      change(at, { decimalSign, askDecimalSign: false, type: undefined, scale: null })
                    }
                  />
                )}
              </td>
              <td className="w-32 px-3 py-1 text-[14px] tabular-nums">
                {column.misfitCount > 0 && (
                  <span className="font-semibold text-madder">{counted(column.misfitCount, "cell")}</span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
