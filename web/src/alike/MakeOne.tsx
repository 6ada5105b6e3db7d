import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from "react";
import { answered, api, type Column, Problem, type Schemas, type StoredRecord } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { counted } from "../model/counted";
import { useShown } from "../model/way";
import { Cover } from "../ui/Cover";
import { apart, from, fullest, rowsOf, taken } from "./together";

interface Props {
  /** The door by which they are made one. */
  door: string;
  columns: Column[];
  records: StoredRecord[];
  close: () => void;
  done: (made: Schemas["MadeOneJson"]) => void;
}

/** What stays with the records that go, in words. */
const LEFT: Record<Schemas["LeftJson"]["kind"], (many: number) => string> = {
  "second-keyings": (many) => counted(many, "second keying stays", "second keyings stay"),
  "handed-on": (many) => counted(many, "record that steps wrote stays", "records that steps wrote stay"),
  messages: (many) => counted(many, "message stays", "messages stay"),
};

/** Records side by side, of which each field's value is chosen, to be made one. */
export function MakeOne({ door, columns, records, close, done }: Props) {
  const shown = useShown();
  const said = (value: unknown, type: string) =>
    type === "picture" && value !== null ? "a picture" : shown(value, type);
  const names = useMemo(() => columns.map(({ name }) => name), [columns]);
  const [stays, setStays] = useState(() => fullest(records));
  const [chosen, setChosen] = useState(() => taken(names, records, stays));
  const [error, setError] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const frame = useRef<HTMLFormElement>(null);
  const lit = apart(names, records);
  const asked = {
    stays: seen(records[stays]),
    others: records.filter((_, at) => at !== stays).map(seen),
    from: from(chosen, records, stays),
  };
  const would = useQuery({
    queryKey: queryKeyOf("made-one", door, asked),
    queryFn: () => make({ ...asked, rehearse: true }),
    retry: false,
    staleTime: 0,
  });
  const make = (body: Schemas["OneAsked"]) =>
    answered(api.POST("/api/doors/{door}/made-one", { params: { path: { door } }, body }));
  const trouble = error ?? would.error;
  const findings = trouble instanceof Problem ? trouble.findings : [];
  const asks = findings.length > 0 && findings.every(({ severity }) => severity === "ask");
  const send = () => {
    if (busy) return;
    setBusy(true);
    const answers = Object.fromEntries(findings.map(({ rule, code }) => [rule || code, "yes"]));
    make({ ...asked, answers })
      .then(done)
      .catch(setError)
      .finally(() => setBusy(false));
  };
  const take = (column: string, at: number) => {
    setError(null);
    setChosen((before) => ({ ...before, [column]: at }));
  };
  /** A digit takes the value of that record, and goes on to the next field. */
  const keys = (e: KeyboardEvent) => {
    // What is asked is answered by a key of its own, as everywhere.
    if (asks && e.altKey && e.key.toLowerCase() === "y" && !e.repeat) send();
    // Who still holds the key with which it was opened makes nothing one.
    if (e.key === "Enter" && e.repeat) e.preventDefault();
    const at = Number(e.key) - 1;
    const column = (e.target as HTMLInputElement).name;
    if (!records[at] || e.ctrlKey || e.altKey || e.metaKey || !names.includes(column)) return;
    e.preventDefault();
    take(column, at);
    const next = names.slice(names.indexOf(column) + 1).find((name) => lit.has(name));
    frame.current?.querySelector<HTMLElement>(next ? `input[name="${next}"]:checked` : "button.go")?.focus();
  };
  useEffect(() => frame.current?.querySelector<HTMLElement>("tbody input:checked, button.go")?.focus(), []);
  return (
    <Cover name={`Make rows ${rowsOf(records)} one`} close={close} wide>
      <form
        ref={frame}
        className="grid gap-3 p-5"
        onKeyDown={keys}
        onSubmit={(e) => {
          e.preventDefault();
          if (!trouble) send();
        }}
      >
        <h2>Make rows {rowsOf(records)} one</h2>
        <p className="text-soft">
          Choose the row that stays and what it holds: the digit of a row takes its value and goes on, Enter
          makes them one.
        </p>
        <table className="listing wrap-anywhere">
          <thead>
            <tr>
              <th>Stays</th>
              {records.map(({ id, row }, at) => (
                <th key={id}>
                  <label className="flex items-center gap-2">
                    <input
                      type="radio"
                      className="radio radio-sm"
                      name=" stays"
                      checked={stays === at}
                      onChange={() => {
                        setStays(at);
                        setChosen(taken(names, records, at));
                      }}
                    />
                    <kbd>{at + 1}</kbd> Row {row}
                  </label>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {columns.map(({ name, title, type }) => (
              <tr key={name}>
                <th scope="row">{title}</th>
                {lit.has(name) ? (
                  records.map((record, at) => (
                    <td key={record.id} className={chosen[name] === at ? "bg-weld-wash" : "text-soft"}>
                      <label className="flex items-center gap-2">
                        <input
                          type="radio"
                          className="radio radio-sm"
                          name={name}
                          checked={chosen[name] === at}
                          onChange={() => take(name, at)}
                        />
                        {said(record.values[name], type) || "empty"}
                      </label>
                    </td>
                  ))
                ) : (
                  <td colSpan={records.length}>{said(records[0]?.values[name], type)}</td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
        <ul aria-live="polite" aria-label="What goes with it">
          {would.data?.moved.map(({ table, column, records: many }) => (
            <li key={`${table} ${column}`}>
              {counted(many, "record links", "records link")} to it then by {column} in {table}
            </li>
          ))}
          {would.data?.left.map(({ kind, many }) => (
            <li key={kind}>{LEFT[kind](many)} with what is removed</li>
          ))}
          <li className="text-soft">
            Row {rowsOf(records.filter((_, at) => at !== stays))} is removed. All of it can be taken back.
          </li>
        </ul>
        {findings.map(({ field, code, rule, severity, message }) => (
          <p key={`${field} ${code} ${rule}`} className={`say ${severity}`} role="alert">
            {message}
          </p>
        ))}
        {trouble !== null && findings.length === 0 && (
          <p className="say stop" role="alert">
            {(trouble as Error).message}
          </p>
        )}
        <div className="flex gap-3">
          {asks ? (
            <button type="button" className="btn go" disabled={busy} onClick={send}>
              Make them one all the same <kbd>Alt Y</kbd>
            </button>
          ) : (
            <button type="submit" className="btn go" disabled={busy || !!trouble}>
              Make them one, row {records[stays]?.row} <kbd>Enter</kbd>
            </button>
          )}
          <button type="button" className="btn" onClick={close}>
            Cancel <kbd>Esc</kbd>
          </button>
        </div>
      </form>
    </Cover>
  );
}

const seen = (record: StoredRecord | undefined) => ({ id: record?.id ?? 0, version: record?.version ?? 0 });
