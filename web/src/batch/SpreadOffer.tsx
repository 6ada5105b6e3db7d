import { type RefObject, useEffect, useRef, useState } from "react";
import type { FormField } from "../api/client";
import type { Entry } from "../entry/entry";
import { inputId } from "../form/FieldView";
import { Cover } from "../ui/Cover";
import { copied, type Spread, spread } from "./cells";

interface Offered extends Spread {
  from: FormField;
  text: string;
}

/** A row of cells that is pasted into one field is offered to be spread over the fields from there on. */
export function SpreadOffer({
  frame,
  fields,
  entry,
}: {
  frame: RefObject<HTMLElement | null>;
  fields: FormField[];
  entry: Entry;
}) {
  const [offered, setOffered] = useState<Offered>();
  const first = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    const pasted = (e: ClipboardEvent) => {
      const at = fields.findIndex(({ column }) => inputId(column) === (e.target as HTMLElement)?.id);
      const from = fields[at];
      if (!from || !e.clipboardData) return;
      const cells = copied(e.clipboardData);
      if (Math.max(0, ...cells.map((row) => row.length)) < 2) return;
      const read = spread(cells, fields, at);
      if (Object.keys(read.lines[0] ?? {}).length < 2) return;
      e.preventDefault();
      setOffered({ ...read, from, text: e.clipboardData.getData("text/plain") });
    };
    const place = frame.current;
    place?.addEventListener("paste", pasted, true);
    return () => place?.removeEventListener("paste", pasted, true);
  }, [frame, fields]);
  useEffect(() => {
    if (offered) first.current?.focus();
  }, [offered]);
  if (!offered) return null;
  const [line = {}] = offered.lines;
  const back = (column: string) => {
    setOffered(undefined);
    setTimeout(() => document.getElementById(inputId(column))?.focus());
  };
  const all = () => {
    for (const [column, text] of Object.entries(line)) entry.type(column, text);
    back(fields.findLast(({ column }) => column in line)?.column ?? offered.from.column);
  };
  const one = () => {
    entry.type(offered.from.column, offered.text.replace(/\s+/g, " ").trim());
    back(offered.from.column);
  };
  return (
    <Cover name="Spread what was pasted" close={() => back(offered.from.column)}>
      <div className="grid gap-3 p-5">
        <h2>Spread {Object.keys(line).length} cells over the fields?</h2>
        <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
          {fields
            .filter(({ column }) => column in line)
            .map(({ id, column, label }) => (
              <div key={id} className="contents">
                <dt className="text-soft">{label}</dt>
                <dd className="truncate font-mono">{line[column]}</dd>
              </div>
            ))}
        </dl>
        {offered.leftOut && <p>{offered.leftOut}</p>}
        {offered.lines.length > 1 && (
          <p>{offered.lines.length} rows were copied; this form takes the first of them.</p>
        )}
        <div className="flex gap-3">
          <button type="button" className="btn go" ref={first} onClick={all}>
            Spread them <kbd>Enter</kbd>
          </button>
          <button type="button" className="btn" onClick={one}>
            All of it into {offered.from.label}
          </button>
        </div>
      </div>
    </Cover>
  );
}
