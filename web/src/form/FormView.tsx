import type { ReactNode } from "react";
import type { Column, Finding, Form, FormField } from "../api/client";
import { FieldView } from "./FieldView";
import { lines } from "./lines";

/** What a form shows of an entry, and whom it tells. */
export interface EntryView {
  /** Whether it asks for records instead of being one. */
  asking?: boolean;
  typed: Record<string, string>;
  /** What the changed fields of a stored record held before. */
  was: Record<string, string>;
  values: Record<string, unknown>;
  readings: Record<string, string>;
  findings: Finding[];
  type: (column: string, text: string) => void;
  leave: (column: string) => void;
}

interface Props {
  form: Form;
  columns: Column[];
  entry: EntryView;
  head?: ReactNode;
  foot: ReactNode;
}

/** A form's fields on the 12-track grid, each line followed by its findings. */
export function FormView({ form, columns, entry, head, foot }: Props) {
  return (
    <div
      className={`form box ${entry.asking ? "ask" : ""}`}
      data-density={entry.asking ? "tight" : form.density}
    >
      {head}
      {form.sections.map((section, at) => (
        <Section key={section.title || at} title={section.title}>
          {lines(section.fields).map((line) => (
            <Line key={line[0]?.id} fields={line} columns={columns} entry={entry} />
          ))}
        </Section>
      ))}
      {foot}
    </div>
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

function Line({ fields, columns, entry }: { fields: FormField[]; columns: Column[]; entry: EntryView }) {
  const findingOf = (field: FormField) => entry.findings.find((finding) => finding.field === field.column);
  return (
    <div className="tracks">
      {fields.map((field) => (
        <FieldView
          key={field.id}
          field={field}
          column={columns.find((column) => column.name === field.column)}
          entry={entry}
          finding={findingOf(field)}
        />
      ))}
      {fields.map((field) => {
        const finding = findingOf(field);
        return (
          finding && (
            <p key={field.id} id={`finding-${field.column}`} className={`finding say ${finding.severity}`}>
              {finding.message.startsWith(field.label) ? "" : `${field.label}: `}
              {finding.message}
            </p>
          )
        );
      })}
    </div>
  );
}
