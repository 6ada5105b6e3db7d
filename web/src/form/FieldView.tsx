import type { CSSProperties } from "react";
import type { Column, Finding, FormField } from "../api/client";
import { AreaInput } from "./AreaInput";
import { ChoiceInput } from "./ChoiceInput";
import { DateInput } from "./DateInput";
import type { EntryView } from "./FormView";
import type { InputProps } from "./input";
import { LineInput } from "./LineInput";
import { YesNoInput } from "./YesNoInput";

interface Props {
  field: FormField;
  column: Column | undefined;
  entry: EntryView;
  finding: Finding | undefined;
}

/** The id of the element that takes a field's keys. */
export const inputId = (column: string) => `field-${column}`;

export function FieldView({ field, column, entry, finding }: Props) {
  const { asking } = entry;
  const reading = entry.readings[field.column];
  const was = entry.was[field.column];
  const said = [
    field.help && !asking && `help-${field.column}`,
    reading && `reading-${field.column}`,
    was !== undefined && `was-${field.column}`,
    finding && `finding-${field.column}`,
  ].filter(Boolean);
  const required = !asking && (field.required || column?.required);
  const input: InputProps = {
    id: inputId(field.column),
    text: entry.typed[field.column] ?? "",
    type: (text) => entry.type(field.column, text),
    value: entry.values[field.column],
    field,
    choices: column?.choices ?? [],
    aria: {
      "aria-describedby": said.length > 0 ? said.join(" ") : undefined,
      "aria-invalid": finding?.severity === "stop" || undefined,
      "aria-required": required || undefined,
    },
  };
  return (
    <div
      className={`f ${finding?.severity ?? ""} ${was === undefined ? "" : "changed"} ${asking && entry.typed[field.column]?.trim() ? "asked" : ""}`}
      style={
        {
          "--w": field.width,
          "--n": Math.min(12, field.width * 2),
          "--lines": asking ? 1 : field.height,
        } as CSSProperties
      }
      onBlur={(e) => !e.currentTarget.contains(e.relatedTarget) && entry.leave(field.column)}
    >
      <label htmlFor={input.id} title={field.label.length > 18 ? field.label : undefined}>
        {field.label}
        {required && <i aria-hidden="true"> *</i>}
      </label>
      {asking ? <LineInput {...input} /> : <Widget {...input} />}
      {reading && !(finding?.severity === "stop") && (
        <p id={`reading-${field.column}`} className="say read">
          {reading}
        </p>
      )}
      {was !== undefined && (
        <p id={`was-${field.column}`} className="say was">
          was {was || "empty"} <kbd>Esc</kbd>
        </p>
      )}
      {field.help && !asking && (
        <p id={`help-${field.column}`} className="say">
          {field.help}
        </p>
      )}
    </div>
  );
}

function Widget(props: InputProps) {
  switch (props.field.widget) {
    case "area":
      return <AreaInput {...props} />;
    case "choice":
      return <ChoiceInput {...props} />;
    case "date":
      return <DateInput {...props} />;
    case "yesno":
      return <YesNoInput {...props} />;
    default:
      return <LineInput {...props} />;
  }
}
