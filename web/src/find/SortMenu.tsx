import { useState } from "react";
import type { Column } from "../api/client";
import { type Level, levels, spelled } from "../rows/ask";
import { Cover } from "../ui/Cover";

interface Props {
  columns: Column[];
  sort: string;
  words: string | undefined;
  change: (sort: string) => void;
}

const LEVELS = [0, 1, 2];

/** The order of the records in words; pressed, a list of columns to sort by. */
export function SortMenu({ columns, sort, words, change }: Props) {
  const [open, setOpen] = useState(false);
  const all = levels(sort);
  const set = (at: number, level: Level | undefined) => {
    const next = [...all.slice(0, at), ...(level ? [level, ...all.slice(at + 1)] : [])];
    change(spelled(next.filter((each, i) => next.findIndex((other) => other.column === each.column) === i)));
  };
  return (
    <>
      <button type="button" className="btn small" onClick={() => setOpen(true)}>
        Sorted by {all.length === 0 ? "row" : (words ?? "…")}
      </button>
      {open && (
        <Cover name="Sort" close={() => setOpen(false)}>
          <div className="grid gap-3 p-5">
            <h2>Sort the records in view</h2>
            {LEVELS.filter((at) => at <= all.length).map((at) => (
              <div key={at} className="flex items-center gap-3">
                <label className="grid flex-1">
                  <span className="text-[13.5px] font-semibold">{at === 0 ? "By" : "Then by"}</span>
                  <select
                    className="entry"
                    value={all[at]?.column ?? ""}
                    onChange={(e) =>
                      set(at, e.target.value ? { column: e.target.value, down: false } : undefined)
                    }
                  >
                    <option value="">{at === 0 ? "row" : "nothing more"}</option>
                    {columns.map((column) => (
                      <option key={column.name} value={column.name}>
                        {column.title}
                      </option>
                    ))}
                  </select>
                </label>
                <label className="mt-5 flex items-center gap-2">
                  <input
                    type="checkbox"
                    className="checkbox"
                    disabled={!all[at]}
                    checked={all[at]?.down ?? false}
                    onChange={(e) => {
                      const level = all[at];
                      if (level)
                        change(
                          spelled(
                            all.map((each, i) => (i === at ? { ...level, down: e.target.checked } : each)),
                          ),
                        );
                    }}
                  />
                  downwards
                </label>
              </div>
            ))}
            <p className="text-soft">Empty values come last, whichever way.</p>
            <button type="button" className="btn go justify-self-start" onClick={() => setOpen(false)}>
              Done <kbd>Esc</kbd>
            </button>
          </div>
        </Cover>
      )}
    </>
  );
}
