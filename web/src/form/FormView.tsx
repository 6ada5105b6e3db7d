import { Fragment, type ReactElement, type ReactNode } from "react";
import type { Column, Form, FormItem } from "../api/client";
import { isField, seen } from "../model/items";
import { FieldView } from "./FieldView";
import { ItemView } from "./ItemView";
import { LinesSketch } from "./LinesSketch";
import { lines } from "./lines";
import { Offers } from "./Offers";
import type { EntryView, Presses } from "./view";

interface Props {
  form: Form;
  columns: Column[];
  entry: EntryView;
  presses: Presses;
  head?: ReactNode;
  foot?: ReactNode;
  /** What is drawn around each item; nothing at the Desk. Whoever draws around sees hidden fields too. */
  around?: (item: FormItem, inner: ReactElement) => ReactNode;
}

/** A form's items on the 12-track grid, each line followed by the findings of its fields. */
export function FormView({ form, columns, entry, presses, head, foot, around }: Props) {
  return (
    <div
      className={`form box ${entry.asking ? "ask" : ""}`}
      data-density={entry.asking ? "tight" : form.density}
      data-tone={form.tone}
      data-size={form.size}
    >
      {head}
      {form.sections.map((section, at) => {
        const items = shownItems(section.items, entry, !!around);
        // What shows nothing now has no heading either.
        if (section.items.length > 0 && items.length === 0) return null;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: sections have no names of their own, only their order
          <Section key={at} title={section.title}>
            {lines(items).map((line) => (
              <Line
                key={line[0]?.id}
                form={form}
                items={line}
                columns={columns}
                entry={entry}
                presses={presses}
                around={around}
              />
            ))}
          </Section>
        );
      })}
      {foot}
    </div>
  );
}

/** Who asks needs nothing but the fields. */
function shownItems(items: FormItem[], entry: EntryView, all: boolean): FormItem[] {
  if (all) return items;
  return items.filter(
    (item) =>
      seen(item) &&
      (entry.asking ? isField(item) : !isField(item) || entry.fields?.[item.column]?.shown !== false),
  );
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  if (!title) return <>{children}</>;
  return (
    <fieldset>
      <legend className="sr-only">{title}</legend>
      <div className="section" aria-hidden="true">
        {title}
      </div>
      {children}
    </fieldset>
  );
}

/** Whether rules give the field its value, before the core has said how it stands in this entry. */
const worked = (form: Form, column: string): boolean =>
  (form.rules?.formulas.some(({ target, what }) => target === column && what === "calculated") ||
    form.rules?.numbers.some((each) => each.column === column)) ??
  false;

interface LineProps extends Pick<Props, "form" | "columns" | "entry" | "presses" | "around"> {
  items: FormItem[];
}

function Line({ form, items, columns, entry, presses, around = (_, inner) => inner }: LineProps) {
  const findings = items
    .filter(isField)
    .flatMap((field) => entry.findings.filter((each) => each.field === field.column).slice(0, 1));
  const drawn = (item: FormItem) => {
    if (item.kind === "lines")
      return <Fragment key={item.id}>{entry.lines?.(item) ?? <LinesSketch item={item} />}</Fragment>;
    if (item.kind !== "field") {
      return (
        <ItemView
          key={item.id}
          item={item}
          columns={columns}
          values={entry.values}
          words={entry.shown?.[item.id]}
          presses={presses}
        />
      );
    }
    const { column } = item;
    const state = entry.asking ? undefined : entry.fields?.[column];
    const ruled = entry.ruled?.[column];
    return (
      <FieldView
        key={item.id}
        field={item}
        column={columns.find((each) => each.name === column)}
        asking={!!entry.asking}
        text={entry.typed[column] ?? ""}
        value={entry.values[column]}
        reading={entry.readings[column]}
        was={entry.was[column]}
        severity={findings.find((each) => each.field === column)?.severity}
        locked={
          state
            ? // What was typed before a rule locked it can be taken back.
              (state.locked && entry.was[column] === undefined) ||
              state.origin === "calculated" ||
              ruled?.numbered
            : worked(form, column)
        }
        must={state?.required}
        source={state?.source ?? undefined}
        placeholder={ruled?.numbered && !entry.asking ? "given at the save" : undefined}
        list={ruled?.listed ? entry.list : undefined}
        link={entry.links?.(column)}
        follow={entry.follow}
        type={entry.type}
        leave={entry.leave}
      />
    );
  };
  return (
    <div className="tracks">
      {items.map((item) => around(item, drawn(item)))}
      {items.filter(isField).map((field) => (
        <Offers key={field.id} form={form} column={field.column} entry={entry} />
      ))}
      {items.filter(isField).map((field) => (
        <Fragment key={field.id}>{entry.likes?.(field.column)}</Fragment>
      ))}
      {findings.map((finding) => {
        const label = items.filter(isField).find((field) => field.column === finding.field)?.label ?? "";
        return (
          <p
            key={finding.field}
            id={`finding-${finding.field}`}
            className={`finding say ${finding.severity}`}
          >
            {finding.message.startsWith(label) ? "" : `${label}: `}
            {finding.message}
            {entry.plot?.(finding)}
          </p>
        );
      })}
    </div>
  );
}
