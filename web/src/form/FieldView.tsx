import type { CSSProperties } from "react";
import { memo, useLayoutEffect, useRef } from "react";
import type { Choice, Column, Finding, FormField } from "../api/client";
import { FieldInput } from "./FieldInput";
import type { InputProps } from "./input";

interface Props {
  field: FormField;
  column: Column | undefined;
  /** Whether it asks for records instead of being part of one. */
  asking: boolean;
  text: string;
  value: unknown;
  /** How what was typed is understood. */
  reading: string | undefined;
  /** What the field of a stored record held before it was changed. */
  was: string | undefined;
  severity: Finding["severity"] | undefined;
  /** Whether a rule fills it in or locks it, so that nobody types here now. */
  locked?: boolean;
  /** Whether a rule wants it filled now. */
  must?: boolean;
  /** What a fill would bring, where something else was typed over it. */
  source?: string;
  /** Shown while it is empty, instead of the field's own words. */
  placeholder?: string;
  /** Where it is chosen from a list of a table: those that begin so. */
  list?: (column: string, typed: string) => Promise<Choice[]>;
  /** What can be done with the record that it links to. */
  link?: string;
  follow?: (column: string) => void;
  type: (column: string, text: string) => void;
  leave: (column: string) => void;
}

/** The id of the element that takes a field's keys. */
export const inputId = (column: string) => `field-${column}`;

/** A field with its label and what is said of it. It is drawn again only when something of its own changed. */
export const FieldView = memo(function FieldView(props: Props) {
  const { field, column, asking, text, value, reading, was, severity, type, leave } = props;
  const { locked, must, source, list, placeholder, link, follow } = props;
  const said = [
    field.help && !asking && `help-${field.column}`,
    reading && `reading-${field.column}`,
    was !== undefined && `was-${field.column}`,
    source && `source-${field.column}`,
    severity && `finding-${field.column}`,
  ].filter(Boolean);
  const shut = !asking && (!!locked || (!!field.use && field.use !== "open"));
  const required = !asking && (must ?? (field.required || column?.required));
  const id = inputId(field.column);
  const keyed = useRef("");
  const before = useRef(text);
  useLayoutEffect(() => {
    const input = document.activeElement;
    // What a rule brings into an empty field that one is in gives way to the first key, as it would on entering it.
    const brought = text && !before.current.trim() && text !== keyed.current;
    if (brought && input?.id === id && input instanceof HTMLInputElement) input.select();
    before.current = text;
  }, [text, id]);
  const input: InputProps = {
    id,
    text,
    type: (typed) => {
      keyed.current = typed;
      type(field.column, typed);
    },
    value,
    field,
    choices: column?.choices ?? [],
    aria: {
      "aria-describedby": said.length > 0 ? said.join(" ") : undefined,
      "aria-invalid": severity === "stop" || undefined,
      "aria-required": required || undefined,
      readOnly: shut || undefined,
      tabIndex: shut && field.use !== "read-only" ? -1 : undefined,
      placeholder: placeholder ?? (field.placeholder || undefined),
    },
  };
  return (
    <div
      className={`f ${severity ?? ""} ${was === undefined ? "" : "changed"} ${asking && text.trim() ? "asked" : ""} ${shut ? (field.use === "open" || !field.use ? "locked" : field.use) : ""} ${field.bold ? "bold" : ""}`}
      data-label={field.labelPlace}
      data-tone={field.tone}
      data-size={field.size}
      style={
        {
          "--w": field.width,
          "--n": Math.min(12, field.width * 2),
          "--lines": asking ? 1 : field.height,
        } as CSSProperties
      }
      onBlur={(e) => !e.currentTarget.contains(e.relatedTarget) && leave(field.column)}
    >
      <label htmlFor={input.id} title={field.label.length > 18 ? field.label : undefined}>
        {field.label}
        {required && <i aria-hidden="true"> *</i>}
      </label>
      {link && !asking && (
        <button type="button" className="to-link" tabIndex={-1} onClick={() => follow?.(field.column)}>
          {link} <kbd>Alt O</kbd>
        </button>
      )}
      <FieldInput {...input} plain={asking} list={list} />
      {reading && severity !== "stop" && (
        <p id={`reading-${field.column}`} className="say read">
          {reading}
        </p>
      )}
      {source && (
        <p id={`source-${field.column}`} className="say was">
          stored as {source}
        </p>
      )}
      {was !== undefined && (
        <p id={`was-${field.column}`} className="say was">
          was {was || "empty"} {!shut && <kbd>Esc</kbd>}
        </p>
      )}
      {field.help && !asking && (
        <p id={`help-${field.column}`} className="say">
          {field.help}
        </p>
      )}
    </div>
  );
});
