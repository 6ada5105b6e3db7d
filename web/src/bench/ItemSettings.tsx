import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { FormField, FormItem, Table } from "../api/client";
import { formsQuery } from "../api/queries";
import { LinesSettings } from "./LinesSettings";
import { rulesOf } from "./rules/edits";
import { FieldRules } from "./rules/FieldRules";
import { ACTIONS, Choice, Count, Flag, Pieces, Row, SIZES, TONES, Writing } from "./settings";
import type { BenchDoings } from "./useBench";

interface Props {
  bench: BenchDoings;
  table: Table;
  items: FormItem[];
}

const WIDGETS: Record<FormField["widget"], string> = {
  line: "one line",
  area: "several lines",
  number: "a number",
  yesno: "yes or no",
  date: "a date",
  time: "a time",
  datetime: "a date and a time",
  choice: "one of a list",
  picture: "a picture",
  link: "a link to a record",
};
const USES = { open: "can be typed in", "read-only": "read-only", locked: "locked", hidden: "hidden" };
const PLACES = { above: "above it", left: "to its left", hidden: "for screen readers only" };

/** Goes to a rule, or to the line that one types rules into. */
function toRule(bench: BenchDoings, rule: string | undefined) {
  bench.setFace("rules");
  bench.setScope(undefined);
  bench.setRule(rule);
}

/** The settings of one item, or those that all the selected ones share. */
export function ItemSettings({ bench, table, items }: Props) {
  const fields = items.filter((item): item is FormField => item.kind === "field");
  const [first] = items;
  if (!first) return null;
  if (fields.length === items.length) return <FieldSettings bench={bench} table={table} fields={fields} />;
  const set = bench.patch;
  return (
    <div className="grid gap-2">
      {items.length === 1 && <Own bench={bench} table={table} item={first} />}
      {items.every(({ kind }) => kind !== "lines") && (
        <Row name="Width">
          <Pieces name="Width" count={12} value={same(items, "width")} set={(width) => set({ width })} />
        </Row>
      )}
    </div>
  );
}

/** What all of them have, or nothing when they differ. */
function same<K extends keyof FormField>(items: FormItem[], name: K): FormField[K] | undefined {
  const values = new Set(items.map((item) => (item as FormField)[name]));
  return values.size === 1 ? [...values][0] : undefined;
}

function FieldSettings({ bench, table, fields }: Omit<Props, "items"> & { fields: FormField[] }) {
  const [tab, setTab] = useState<"Field" | "Entry" | "Rules" | "Look">("Field");
  const set = bench.patch;
  const [one] = fields.length === 1 ? fields : [];
  return (
    <>
      <div role="tablist" aria-label="Settings" className="tabs-row">
        {(["Field", "Entry", ...(one ? (["Rules"] as const) : []), "Look"] as const).map((each) => (
          <button
            key={each}
            type="button"
            role="tab"
            aria-selected={tab === each}
            onClick={() => setTab(each)}
          >
            {each}
          </button>
        ))}
      </div>
      <div className="grid gap-2">
        {tab === "Field" && (
          <>
            {one && <Writing name="Label" value={one.label} set={(label) => set({ label })} />}
            {one && (
              <Choice
                name="Thread to"
                value={one.column}
                choices={Object.fromEntries([
                  ...(table.columns.some((column) => column.name === one.column)
                    ? []
                    : [[one.column, `${one.column} (gone)`]]),
                  ...table.columns.map((column) => [column.name, `${column.title} · ${column.name}`]),
                ])}
                set={(column) => set({ column })}
              />
            )}
            {one && <Writing name="Help line" value={one.help} none="none" set={(help) => set({ help })} />}
            <Row name="Width">
              <Pieces name="Width" count={12} value={same(fields, "width")} set={(width) => set({ width })} />
            </Row>
            <Row name="Height">
              <Pieces
                name="Height"
                count={6}
                value={same(fields, "height") ?? 1}
                set={(height) => set({ height })}
              />
            </Row>
          </>
        )}
        {tab === "Entry" && (
          <>
            <Choice
              name="Typed as"
              value={same(fields, "widget")}
              choices={WIDGETS}
              set={(widget) => set({ widget })}
            />
            <Choice
              name="Use"
              value={same(fields, "use") ?? "open"}
              choices={USES}
              set={(use) => set({ use })}
            />
            {one && (
              <Writing
                name="Begins with"
                value={one.begins}
                none="nothing"
                set={(begins) => set({ begins })}
              />
            )}
            <Flag
              name="Required"
              value={same(fields, "required") ?? false}
              set={(required) => set({ required })}
            />
            <Flag
              name="Keeps the last value"
              value={same(fields, "carried") ?? false}
              set={(carried) => set({ carried })}
            />
            {one && (
              <Flag
                name="Given by what opens the form"
                value={one.linked}
                set={(linked) => set({ linked })}
              />
            )}
            {one && <Flag name="Typing begins here" value={one.first} set={(first) => set({ first })} />}
            <TypingHelp fields={fields} set={set} />
          </>
        )}
        {tab === "Rules" && one && (
          <FieldRules bench={bench} field={one} show={(rule) => toRule(bench, rule)} />
        )}
        {tab === "Look" && (
          <>
            <Choice
              name="Label stands"
              value={same(fields, "labelPlace") ?? "above"}
              choices={PLACES}
              set={(labelPlace) => set({ labelPlace })}
            />
            {one && (
              <Writing
                name="Shown while empty"
                value={one.placeholder}
                none="nothing"
                set={(placeholder) => set({ placeholder })}
              />
            )}
            {one && <Writing name="Unit" value={one.unit} none="none" set={(unit) => set({ unit })} />}
            <Choice
              name="Text size"
              value={same(fields, "size") ?? "normal"}
              choices={SIZES}
              set={(size) => set({ size })}
            />
            <Flag name="Bold" value={same(fields, "bold") ?? false} set={(bold) => set({ bold })} />
            <Choice
              name="Tone"
              value={same(fields, "tone") ?? "plain"}
              choices={TONES}
              set={(tone) => set({ tone })}
            />
          </>
        )}
      </div>
    </>
  );
}

/** How typing in them is helped, where what is typed is a line of signs. */
function TypingHelp({ fields, set }: { fields: FormField[]; set: (changes: Partial<FormField>) => void }) {
  const widgets = fields.map(({ widget }) => widget);
  if (!widgets.every((widget) => TYPED.has(widget))) return null;
  return (
    <>
      {widgets.every((widget) => widget === "line") && (
        <>
          <Writing
            name="Looks like"
            value={same(fields, "shape")}
            none="a value, such as AB-12"
            set={(shape) => set({ shape })}
          />
          <Flag
            name="Capital letters"
            value={same(fields, "capitals") ?? false}
            set={(capitals) => set({ capitals })}
          />
        </>
      )}
      <Count
        name="Goes on after"
        unit="characters"
        none="never"
        value={same(fields, "goesOnAfter") ?? 0}
        set={(goesOnAfter) => set({ goesOnAfter })}
      />
    </>
  );
}

const TYPED = new Set<FormField["widget"]>(["line", "number", "date", "time", "datetime"]);

const KEYS = { none: "none", enter: "Enter", esc: "Esc" };

/** What an item that is no field has of its own. */
function Own({ bench, table, item }: Omit<Props, "items"> & { item: FormItem }) {
  const set = bench.patch;
  const forms = useQuery(formsQuery).data ?? [];
  switch (item.kind) {
    case "button":
      return (
        <>
          <Writing name="Words" value={item.label} set={(label) => set({ label })} />
          <Choice name="Does" value={item.action} choices={ACTIONS} set={(action) => set({ action })} />
          {item.action === "open" && (
            <Choice
              name="Opens"
              value={item.opens}
              choices={Object.fromEntries([
                ["", "choose a form"],
                ...forms.map((form) => [form.id, form.title]),
              ])}
              set={(opens) => set({ opens })}
            />
          )}
          {item.action === "steps" && (
            <Row name="Steps">
              <button
                type="button"
                className="btn small justify-self-start"
                onClick={() => toRule(bench, bench.told.find(({ key }) => key.endsWith(` ${item.id}`))?.key)}
              >
                {rulesOf(bench.form).steps.find((each) => each.when === item.id)?.steps.length ?? 0} steps:
                change them
              </button>
            </Row>
          )}
          <Choice name="Key" value={item.key ?? "none"} choices={KEYS} set={(key) => set({ key })} />
          <Flag
            name="With a sign"
            value={!!item.icon}
            set={(icon) => set({ icon: icon ? (item.action === "steps" ? "open" : item.action) : "" })}
          />
        </>
      );
    case "calculated":
      return (
        <>
          <Writing name="Label" value={item.label} set={(label) => set({ label })} />
          <Choice
            name="Shows"
            value={item.column}
            choices={{
              "": "a formula",
              ...Object.fromEntries(table.columns.map((column) => [column.name, column.title])),
            }}
            set={(column) => set({ column })}
          />
          <Row name="Or a formula">
            <button
              type="button"
              className="btn small justify-self-start"
              onClick={() =>
                toRule(bench, bench.told.find(({ text }) => text.startsWith(`${item.label} shows`))?.key)
              }
            >
              Type it as a rule
            </button>
          </Row>
        </>
      );
    case "lines":
      return <LinesSettings bench={bench} item={item} set={set} />;
    case "picture":
      return (
        <>
          <Row name="File">
            <input
              type="file"
              aria-label="Picture file"
              accept="image/png,image/jpeg,image/webp"
              onChange={(e) => bring(e.target.files?.[0], bench)}
            />
          </Row>
          <Writing
            name="It shows"
            value={item.words}
            none="for those who cannot see it"
            set={(words) => set({ words })}
          />
          <Row name="Height">
            <Pieces name="Height" count={12} value={item.height ?? 4} set={(height) => set({ height })} />
          </Row>
        </>
      );
    case "heading":
      return <Writing name="Heading" value={item.text} set={(text) => set({ text })} />;
    case "text":
      return (
        <Row name="Text">
          <textarea
            className="entry small tall"
            aria-label="Text"
            rows={4}
            value={item.text}
            maxLength={4_000}
            onChange={(e) => set({ text: e.target.value })}
          />
        </Row>
      );
    default:
      return null;
  }
}

const LARGEST = 290_000;

function bring(file: File | undefined, bench: BenchDoings) {
  if (!file) return;
  if (file.size > LARGEST) {
    bench.say("The picture has more than 290 kB. Make it smaller first.", true);
    return;
  }
  const reader = new FileReader();
  reader.onload = () => bench.patch({ image: String(reader.result) });
  reader.readAsDataURL(file);
}
