import { Plus, X } from "lucide-react";
import type { Choosable } from "./Chips";

export interface Line {
  column: string;
  text: string;
}

/** Columns with something said of each: a criterion, or a formula. */
export function Lines({
  label,
  between,
  hint,
  columns,
  lines,
  change,
}: {
  label: string;
  between: string;
  hint: string;
  columns: Choosable[];
  lines: Line[];
  change: (lines: Line[]) => void;
}) {
  const put = (at: number, changed: Partial<Line>) =>
    change(lines.map((line, n) => (n === at ? { ...line, ...changed } : line)));
  return (
    <div className="grid gap-2">
      {lines.map((line, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a line is where it stands
        <div key={at} className="door-line">
          <select
            className="entry min-w-0"
            aria-label={`${label}: column`}
            value={line.column}
            onChange={(e) => put(at, { column: e.target.value })}
          >
            {columns.map((each) => (
              <option key={each.name} value={each.name}>
                {each.title}
              </option>
            ))}
          </select>
          <span className="text-soft">{between}</span>
          <input
            className="entry min-w-0 font-mono"
            aria-label={label}
            placeholder={hint}
            value={line.text}
            onChange={(e) => put(at, { text: e.target.value })}
          />
          <button
            type="button"
            className="btn quiet icon"
            aria-label={`Take this out of ${label}`}
            onClick={() => change(lines.filter((_, n) => n !== at))}
          >
            <X size={14} aria-hidden="true" />
          </button>
        </div>
      ))}
      <button
        type="button"
        className="btn small justify-self-start"
        onClick={() => change([...lines, { column: columns[0]?.name ?? "", text: "" }])}
      >
        <Plus size={14} aria-hidden="true" /> {lines.length === 0 ? "Add one" : "Another"}
      </button>
    </div>
  );
}
