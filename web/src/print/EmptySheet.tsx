import { useQuery } from "@tanstack/react-query";
import { QRCodeSVG } from "qrcode.react";
import { type CSSProperties, Fragment } from "react";
import { Link, useParams } from "react-router";
import type { Column, Form, FormField, FormItem } from "../api/client";
import { doorQuery, publishedQuery, seenTableQuery } from "../api/queries";
import { seen, widthOf } from "../model/items";
import { Trouble } from "../ui/Trouble";

/** So many choices are set out to be ticked; of more, one is written. */
const TICKED = 12;
/** Lines of a table that belong to the record, on paper. */
const BLANK = 8;

/**
 * The form on paper, empty, for those who write where no screen is: in the order of Tab, boxes as wide as their fields, choices
 * to tick. The browser prints it, on A4 and on Letter.
 */
export function EmptySheet() {
  const id = useParams().door ?? "";
  const door = useQuery(doorQuery(id));
  const published = useQuery(publishedQuery(id));
  const table = useQuery(seenTableQuery(id));
  const form = published.data?.form;
  return (
    <main className="place sheet-place">
      <header className="top">
        <h1>Empty sheet</h1>
        <span className="flex-1" />
        <Link className="btn" to={`/d/${id}`}>
          Back to the Desk
        </Link>
        <button type="button" className="btn go" onClick={() => window.print()}>
          Print
        </button>
      </header>
      <div className="sheet-scroll" tabIndex={0} role="group" aria-label="The sheet">
        <Trouble error={door.error ?? published.error ?? table.error} />
        {form && table.data && (
          <Paper
            form={form}
            columns={table.data.columns}
            version={published.data?.revision}
            address={`${window.location.origin}/d/${id}`}
          />
        )}
      </div>
    </main>
  );
}

interface PaperProps {
  form: Form;
  columns: Column[];
  version: number | undefined;
  /** Where what stands on it is keyed. */
  address: string;
}

function Paper({ form, columns, version, address }: PaperProps) {
  const byName = new Map(columns.map((column) => [column.name, column]));
  return (
    <article className="paper" aria-label={`Empty sheet of ${form.title}`}>
      <h2>{form.title}</h2>
      {form.sections.map((section, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: sections have no names of their own, only their order
        <section key={at}>
          {section.title && <h3>{section.title}</h3>}
          <div className="paper-grid">
            {section.items.filter(seen).map((item) => (
              <Fragment key={item.id}>
                <Box
                  item={item}
                  column={item.kind === "field" ? byName.get(item.column) : undefined}
                  dayOrder={form.dayOrder}
                />
              </Fragment>
            ))}
          </div>
        </section>
      ))}
      <footer>
        <span>
          {form.title}, version {version}
        </span>
        <span className="font-mono">{address}</span>
        <QRCodeSVG value={address} size={68} title={`The door where it is keyed: ${address}`} />
      </footer>
    </article>
  );
}

/** What one writes one item of the form into. */
function Box({ item, column, dayOrder }: Omit<WritingProps, "field"> & { item: FormItem }) {
  const style = { "--w": widthOf(item) } as CSSProperties;
  switch (item.kind) {
    case "field":
      return (
        <div className="paper-field" style={style}>
          <span className="paper-label">
            {item.label}
            {(item.required || column?.required) && " *"}
            {item.unit && <small> {item.unit}</small>}
          </span>
          <Writing field={item} column={column} dayOrder={dayOrder} />
          {item.help && <small>{item.help}</small>}
        </div>
      );
    case "heading":
      return <h4 style={style}>{item.text}</h4>;
    case "text":
      return (
        <p className="paper-text" style={style}>
          {item.text.replaceAll(/[*_`#]/g, "")}
        </p>
      );
    case "divider":
      return <hr style={style} />;
    case "lines":
      return (
        <table className="paper-lines" style={style}>
          <caption>{item.label}</caption>
          <thead>
            <tr>
              <th scope="col">
                <span className="sr-only">Line</span>
              </th>
              {item.items.map((field) => (
                <th key={field.id} scope="col">
                  {field.label}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {Array.from({ length: Math.max(item.blank ?? 0, BLANK) }, (_, at) => at + 1).map((line) => (
              <tr key={line}>
                <th scope="row">{line}</th>
                {item.items.map((field) => (
                  <td key={field.id} />
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      );
    default:
      return null;
  }
}

const DAYS: Record<Form["dayOrder"], string> = {
  "month-first": "month / day / year",
  "day-first": "day / month / year",
  "year-first": "year - month - day",
};

interface WritingProps {
  field: FormField;
  column: Column | undefined;
  dayOrder: Form["dayOrder"];
}

function Writing({ field, column, dayOrder }: WritingProps) {
  const choices =
    field.widget === "yesno" ? ["yes", "no"] : column?.type === "choice" ? (column.choices ?? []) : [];
  const filled = field.use === "locked" || field.use === "read-only";
  if (!filled && choices.length > 0 && choices.length <= TICKED) {
    return (
      <span className="paper-ticks">
        {choices.map((choice) => (
          <span key={choice}>
            <i aria-hidden="true" /> {choice}
          </span>
        ))}
      </span>
    );
  }
  return (
    <span
      className={`paper-box ${filled ? "filled" : ""}`}
      style={
        {
          "--h": field.widget === "area" || field.widget === "picture" ? Math.max(3, field.height ?? 1) : 1,
        } as CSSProperties
      }
    >
      {filled && <small>filled in when it is keyed</small>}
      {field.widget === "date" && !filled && <small>{DAYS[dayOrder]}</small>}
    </span>
  );
}
