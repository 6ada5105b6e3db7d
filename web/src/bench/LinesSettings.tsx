import { useQuery } from "@tanstack/react-query";
import type { FormField } from "../api/client";
import type { FormLines } from "../entry/sheet";
import { linesOffered } from "./LinesPress";
import { Choice, Flag, Row, Writing } from "./settings";
import type { BenchDoings } from "./useBench";

interface Props {
  bench: BenchDoings;
  item: FormLines;
  set: (patch: Partial<FormLines>) => void;
}

/** What lines on a form are: of which table, with which columns, how many, and what holds of them. */
export function LinesSettings({ bench, item, set }: Props) {
  const offered = useQuery(linesOffered(bench.form.id)).data ?? [];
  const place = (lines: FormLines) => `${lines.table} ${lines.by}`;
  const fresh = offered.find((lines) => place(lines) === place(item));
  // What is on the form already stays as it was changed there.
  const fields: FormField[] = [
    ...item.items,
    ...(fresh?.items ?? []).filter(({ column }) => !item.items.some((field) => field.column === column)),
  ];
  const shows = (column: string) => item.items.some((field) => field.column === column);
  const count = (value: string) => Math.max(0, Math.min(5000, Number.parseInt(value, 10) || 0));
  const { checks = [], fills = [], formulas = [], choices = [] } = item.rules ?? {};
  const rules = checks.length + fills.length + formulas.length + choices.length;
  return (
    <>
      <Writing name="Label" value={item.label} set={(label) => set({ label })} />
      <Choice
        name="Lines of"
        value={place(item)}
        choices={Object.fromEntries(
          [...(fresh ? [] : [item]), ...offered].map((lines) => [
            place(lines),
            `${lines.table}, by ${lines.by}`,
          ]),
        )}
        set={(chosen) => {
          const lines = offered.find((each) => place(each) === chosen);
          if (lines) set({ ...lines, id: item.id });
        }}
      />
      <Checked
        name="Columns"
        fields={fields}
        on={shows}
        turn={(field) =>
          set({
            items: shows(field.column)
              ? item.items.filter(({ column }) => column !== field.column)
              : [...item.items, field],
            alike: (item.alike ?? []).filter((column) => column !== field.column),
          })
        }
      />
      <Checked
        name="No two alike in"
        fields={item.items}
        on={(column) => (item.alike ?? []).includes(column)}
        turn={({ column }) =>
          set({
            alike: item.alike?.includes(column)
              ? item.alike.filter((each) => each !== column)
              : [...(item.alike ?? []), column],
          })
        }
      />
      <Writing
        name="Blank lines at first"
        value={String(item.blank ?? 6)}
        set={(blank) => set({ blank: Math.max(1, Math.min(50, count(blank))) })}
      />
      <Writing
        name="Lines at least"
        value={item.least ? String(item.least) : ""}
        none="none"
        set={(least) => set({ least: count(least) })}
      />
      <Writing
        name="Lines at most"
        value={item.most ? String(item.most) : ""}
        none="any number"
        set={(most) => set({ most: count(most) })}
      />
      <Flag
        name="Removed and put back with the record"
        value={item.belong ?? true}
        set={(belong) => set({ belong })}
      />
      <Row name="Rules of each line">
        <span className="flex flex-wrap items-center gap-2">
          {rules === 0 ? "none" : rules === 1 ? "1 rule" : `${rules} rules`}
          <button
            type="button"
            className="btn small"
            onClick={() => {
              bench.setFace("rules");
              bench.setRule(undefined);
              bench.setScope(item.id);
            }}
          >
            Change them
          </button>
          {fresh && (
            <button type="button" className="btn small" onClick={() => set({ rules: fresh.rules })}>
              Take those of {item.table}
            </button>
          )}
        </span>
      </Row>
    </>
  );
}

interface CheckedProps {
  name: string;
  fields: FormField[];
  on: (column: string) => boolean;
  turn: (field: FormField) => void;
}

function Checked({ name, fields, on, turn }: CheckedProps) {
  return (
    <Row name={name}>
      <span className="flex flex-wrap gap-x-4 gap-y-1">
        {fields.map((field) => (
          <label key={field.column} className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              aria-label={`${name}: ${field.label}`}
              checked={on(field.column)}
              onChange={() => turn(field)}
            />
            {field.label}
          </label>
        ))}
      </span>
    </Row>
  );
}
