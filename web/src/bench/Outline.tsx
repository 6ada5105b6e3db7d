import { Plus } from "lucide-react";
import { Fragment, useCallback, useLayoutEffect, useMemo, useState } from "react";
import { flushSync } from "react-dom";
import type { FormItem, Table } from "../api/client";
import { fieldsOf } from "../model/items";
import { changeSection, columns, join, split } from "./edits";
import { ItemSettings } from "./ItemSettings";
import { LinesPress } from "./LinesPress";
import { OutlineLine } from "./OutlineLine";
import { QuickLine, useQuickLines } from "./QuickLine";
import { typedOn } from "./typedOn";
import { type BenchDoings, useLatest } from "./useBench";

/** The form's items in tab order, with its sections as headings, and the columns that have no field. */
export function Outline({ bench, table }: { bench: BenchDoings; table: Table }) {
  const { form, selected, ids } = bench;
  const latest = useLatest(bench);
  const insert = useCallback((item: string) => setBelow(item), []);
  const types = useMemo(() => new Map(table.columns.map((column) => [column.name, column])), [table]);
  // The line below which the next field is typed in; at the top of the outline where none is.
  const [below, setBelow] = useState<string>();
  const { lines, below: belowLines } = bench.typing;
  useQuickLines(lines, bench, "quick-line");
  // The box goes along with what is made, at once, so that the very next key finds it.
  useQuickLines(belowLines, bench, "quick-line-below", below, (item) =>
    flushSync(() => setBelow((open) => open && item)),
  );
  const [, setTaken] = useState(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was typed before the Bench was there is taken over once
  useLayoutEffect(() => {
    const typed = typedOn.take().split("\n");
    lines.type(typed.pop() ?? "");
    for (const each of typed) lines.add(each);
    // Drawn again at once: the next key is typed behind it, and nobody listens to the lines before the page was painted.
    setTaken(true);
  }, []);
  const several = selected.length > 1;
  const numbers = new Map(ids.map((id, at) => [id, at]));
  const line = (item: FormItem) => (
    <Fragment key={item.id}>
      <OutlineLine
        latest={latest}
        item={item}
        rules={item.kind === "field" ? (bench.state?.marks[item.column] ?? "") : ""}
        must={item.kind === "field" && !!(item.required || types.get(item.column)?.required)}
        thread={item.kind === "field" ? bench.threads.get(item.column) : undefined}
        number={(numbers.get(item.id) ?? 0) + 1}
        selected={selected.includes(item.id)}
        current={selected.length > 0 ? selected.at(-1) === item.id : ids[0] === item.id}
        open={bench.open && !several && selected[0] === item.id}
        insert={insert}
      />
      {bench.open && !several && selected[0] === item.id && (
        <li className="settings">
          <ItemSettings bench={bench} table={table} items={[item]} />
        </li>
      )}
      {below === item.id && (
        <li>
          <QuickLine
            bench={bench}
            lines={belowLines}
            box="quick-line-below"
            back={item.id}
            close={() => setBelow(undefined)}
          />
        </li>
      )}
    </Fragment>
  );
  return (
    <>
      <QuickLine bench={bench} lines={lines} box="quick-line" back={selected.at(-1)} />
      <div className="lines">
        {form.sections.map((section, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: sections have no names of their own, only their order
          <div key={at}>
            <div className="group">
              <input
                aria-label={`Title of section ${at + 1}`}
                placeholder={form.sections.length > 1 ? "no heading" : "heading of the form's first section"}
                value={section.title}
                maxLength={120}
                onChange={(e) => bench.edit(changeSection(at, { title: e.target.value }))}
                onKeyDown={(e) => {
                  if (e.key === "Backspace" && section.title === "" && at > 0) bench.edit(join(at));
                }}
              />
              <select
                aria-label={`Columns of section ${at + 1}`}
                value={section.columns ?? 4}
                onChange={(e) => bench.edit(columns(at, Number(e.target.value)))}
              >
                {[1, 2, 3, 4].map((count) => (
                  <option key={count} value={count}>
                    {count === 1 ? "1 column" : `${count} columns`}
                  </option>
                ))}
              </select>
            </div>
            <ol aria-label={section.title || "Items"}>{section.items.map(line)}</ol>
          </div>
        ))}
        {several && (
          <div className="settings shared">
            <h2>{selected.length} selected</h2>
            <ItemSettings bench={bench} table={table} items={bench.items} />
          </div>
        )}
      </div>
      <Beside bench={bench} />
      <LooseEnds bench={bench} table={table} />
    </>
  );
}

const BUTTONS = [
  { label: "Save", action: "save", key: "enter", icon: "" },
  { label: "Clear", action: "clear", key: "esc", icon: "" },
] as const;

/** What is put beside fields with one press. */
function Beside({ bench }: { bench: BenchDoings }) {
  const { form, selected } = bench;
  const add = (item: FormItem) => {
    bench.put([item]);
    bench.setOpen(true);
  };
  const has = (action: string) =>
    form.sections.some((section) =>
      section.items.some((item) => item.kind === "button" && item.action === action),
    );
  const first = fieldsOf(form)[0]?.column ?? "";
  return (
    <fieldset className="beside" aria-label="Put beside the fields">
      {BUTTONS.filter(({ action }) => !has(action)).map((button) => (
        <Press
          key={button.action}
          name={button.label}
          press={() =>
            bench.put([{ kind: "button", id: button.action, opens: "", width: 2, ...button }], true)
          }
        />
      ))}
      <Press
        name="Button"
        press={() =>
          add({
            kind: "button",
            id: "button",
            label: "Find",
            action: "find",
            key: "none",
            icon: "",
            opens: "",
            width: 2,
          })
        }
      />
      <Press name="Section" press={() => bench.edit(split("New section", selected[0]))} />
      {(["heading", "text", "divider"] as const).map((kind) => (
        <Press
          key={kind}
          name={kind[0]?.toUpperCase() + kind.slice(1)}
          press={() =>
            add({ kind, id: kind, text: kind === "divider" ? "" : `New ${kind}`, width: 12, height: 1 })
          }
        />
      ))}
      <Press
        name="Picture"
        press={() => add({ kind: "picture", id: "picture", image: "", words: "", width: 4, height: 4 })}
      />
      <LinesPress form={bench.form} add={add} />
      <Press
        name="Shown value"
        press={() =>
          add({ kind: "calculated", id: "shown", label: "Shown value", column: first || "column", width: 3 })
        }
      />
    </fieldset>
  );
}

function Press({ name, press }: { name: string; press: () => void }) {
  return (
    <button type="button" className="press" onClick={press}>
      <Plus size={12} aria-hidden="true" />
      {name}
    </button>
  );
}

function LooseEnds({ bench, table }: { bench: BenchDoings; table: Table }) {
  const loose = table.columns.filter((column) => !bench.threads.has(column.name));
  if (loose.length === 0) return null;
  return (
    <section className="loose" aria-label="Loose ends">
      <p>
        <b>{loose.length === 1 ? "1 loose end" : `${loose.length} loose ends`}</b>,{" "}
        {loose.length === 1 ? "a column" : "columns"} with no field
      </p>
      <div>
        {loose.slice(0, 30).map((column) => (
          <button
            key={column.name}
            type="button"
            className="end"
            title={`Make a field for ${column.title}`}
            onClick={() => bench.tie([column.name], bench.selected.at(-1))}
          >
            {column.name}
          </button>
        ))}
        {loose.length > 1 && (
          <button
            type="button"
            className="end all"
            onClick={() => bench.tie(loose.map((column) => column.name))}
          >
            all of them
          </button>
        )}
      </div>
    </section>
  );
}
