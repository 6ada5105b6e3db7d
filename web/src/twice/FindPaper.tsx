import { useState } from "react";
import type { Form } from "../api/client";
import { fieldsOf } from "../model/items";

interface Props {
  form: Form;
  /** By what papers are recognised. */
  columns: string[];
  take: (asked: Record<string, string>) => unknown;
  close?: () => void;
}

/** Asks for a paper by what it is recognised by. */
export function FindPaper({ form, columns, take, close }: Props) {
  const [asked, setAsked] = useState<Record<string, string>>({});
  return (
    <form
      className="find-paper"
      aria-label="A paper by what it is recognised by"
      onSubmit={(e) => {
        e.preventDefault();
        take(asked);
      }}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Escape") close?.();
      }}
    >
      {columns.map((column, at) => (
        <label key={column}>
          {fieldsOf(form).find((field) => field.column === column)?.label ?? column}
          <input
            className="entry"
            // biome-ignore lint/a11y/noAutofocus: who asks for another paper types which
            autoFocus={at === 0 && close !== undefined}
            autoComplete="off"
            value={asked[column] ?? ""}
            onChange={(e) => setAsked({ ...asked, [column]: e.target.value })}
          />
        </label>
      ))}
      <button type="submit" className="btn">
        Take this paper
      </button>
    </form>
  );
}
