import type { Column } from "../api/client";

import { Choice, Row } from "./settings";
import { TableSelect, useColumns } from "./TableSelect";

const SHOWABLE = new Set(["text", "choice", "whole", "decimal", "date"]);
const REMOVED = { refuse: "is refused while it is linked to", empty: "empties the link" };

/** Where a link leads, how its records are called, and what becomes of it when one is removed. */
export function LinkTo({ to, set }: { to: Column; set: (patch: Partial<Column>) => void }) {
  const columns = useColumns(to.to ?? "").filter((column) => SHOWABLE.has(column.type));
  const shown = to.shown ?? [];
  return (
    <>
      <Row name="Links to the table">
        <TableSelect
          name="Links to the table"
          value={to.to ?? ""}
          set={(table) => set({ to: table, shown: [] })}
        />
      </Row>
      {columns.length > 0 && (
        <Row name="Records are called by">
          <span className="flex flex-wrap gap-x-4 gap-y-1">
            {columns.map(({ name, title }) => (
              <label key={name} className="flex items-center gap-2">
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm"
                  checked={shown.includes(name)}
                  onChange={(e) =>
                    set({
                      shown: e.target.checked ? [...shown, name] : shown.filter((each) => each !== name),
                    })
                  }
                />
                {title}
                {shown.length > 1 && shown.includes(name) && (
                  <i className="text-soft">{shown.indexOf(name) + 1}</i>
                )}
              </label>
            ))}
          </span>
        </Row>
      )}
      <Choice
        name="Removing its record"
        value={to.removed ?? "refuse"}
        choices={REMOVED}
        set={(removed) => set({ removed })}
      />
    </>
  );
}
