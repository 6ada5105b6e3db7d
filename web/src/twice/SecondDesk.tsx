import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { Link, useParams } from "react-router";
import type { Door, Form, FormField, FormItem, Ruled, SeenTable } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { doorQuery, publishedQuery, ruledQuery, seenTableQuery } from "../api/queries";
import { standing } from "../entry/derived";
import { ruled as byRules, shownFindings } from "../entry/entry";
import { inputId } from "../form/FieldView";
import { FormView } from "../form/FormView";
import { fieldsOf, focusable } from "../model/items";
import { Pictures, picturesAt } from "../model/pictures";
import { WayOf } from "../model/way";
import { Trouble } from "../ui/Trouble";
import { Choose } from "./Choose";
import { FindPaper } from "./FindPaper";
import { Second, type TwiceState } from "./second";
import { twiceQuery } from "./twiceQuery";
import "./twice.css";
import { useSubscribed } from "../model/useSubscribed";

/** The place where papers are keyed a second time. */
export function SecondDesk() {
  const id = useParams().door ?? "";
  const door = useQuery(doorQuery(id));
  const published = useQuery(publishedQuery(id));
  const ruled = useQuery(ruledQuery(id));
  const table = useQuery(seenTableQuery(id));
  const state = useQuery(twiceQuery(id));
  if (door.data && published.data && ruled.data && table.data && state.data) {
    return (
      <Pictures value={picturesAt(id)}>
        <WayOf value={published.data.form}>
          <SecondOf
            key={id}
            door={door.data}
            form={published.data.form}
            version={published.data.revision}
            ruled={ruled.data}
            table={table.data}
            state={state.data}
          />
        </WayOf>
      </Pictures>
    );
  }
  return (
    <main className="place">
      <header className="top">
        <h1>Second keying</h1>
      </header>
      <div className="p-5">
        <Trouble error={door.error ?? published.error ?? state.error ?? table.error} />
      </div>
    </main>
  );
}

interface Props {
  door: Door;
  form: Form;
  version: number;
  ruled: Ruled;
  table: SeenTable;
  state: TwiceState;
}

/** The form without what is not compared: what the paper is recognised by is given, and buttons have nothing to do here. */
const toKey = (form: Form, state: TwiceState): Form => ({
  ...form,
  sections: form.sections
    .map((section) => ({
      ...section,
      items: section.items.flatMap((item): FormItem[] => {
        if (item.kind === "button" || item.kind === "lines") return [];
        if (item.kind !== "field") return [item];
        const given = state.paper.includes(item.column);
        const open = !item.use || item.use === "open";
        if (open && !given && !state.compared.includes(item.column)) return [];
        return [{ ...item, carried: false, begins: "", use: given ? "locked" : item.use }];
      }),
    }))
    .filter(({ items }) => items.length > 0),
});

function SecondOf({ door, form: whole, version, ruled, table, state }: Props) {
  const rules = `${state.paper} ${state.compared}`;
  // biome-ignore lint/correctness/useExhaustiveDependencies: how many wait changes nothing of the form
  const form = useMemo(() => toKey(whole, state), [whole, rules]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: how many wait changes nothing of what is keyed
  const second = useMemo(() => new Second(door.id, state), [door.id, state.way]);
  const { entry } = second;
  const queries = useQueryClient();
  const now = useSubscribed(second);
  const typed = useSubscribed(entry);
  const fields = useMemo(() => focusable(form).filter((field) => field.use !== "read-only"), [form]);
  const [asking, setAsking] = useState(false);
  useEffect(() => {
    entry.follow(form, version);
  }, [entry, form, version]);
  useEffect(() => {
    const first = fields[0]?.column;
    second.take({
      focus: (column) => {
        // The fields are drawn only once the paper is there, and no key is to come before.
        flushSync(() => {});
        const field = document.getElementById(inputId(column ?? first ?? ""));
        field?.focus();
        if (field instanceof HTMLInputElement) field.select();
      },
      at: () => fields.find(({ column }) => inputId(column) === document.activeElement?.id)?.column,
      press: (keys) => {
        for (const key of keys) {
          if (second.hold(key)) continue;
          if (key === "Enter") second.end();
          else pressed(key, fields);
        }
      },
    });
  }, [second, fields]);
  useEffect(() => second.watch(fields.map(({ column }) => column)), [second, fields]);
  useEffect(() => second.stay(), [second]);
  const begun = useRef(false);
  useEffect(() => {
    if (begun.current) return;
    begun.current = true;
    second.next();
  }, [second]);
  // How many wait is another number after each paper.
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked anew whenever the paper changes
  useEffect(() => {
    queries.invalidateQueries({ queryKey: queryKeyOf("twice", door.id) });
  }, [queries, door.id, now.paper]);

  const given = now.paper?.values ?? {};
  const view = {
    ...byRules(typed, entry),
    typed: {
      ...standing(form, table, typed),
      ...Object.fromEntries(fieldsOf(form).flatMap(({ column }) => spoken(column, given[column]))),
    },
    was: {},
    values: { ...typed.assessment?.values, ...given },
    readings: typed.assessment?.readings ?? {},
    findings: second.findings(shownFindings(typed)),
    ruled,
    type: second.type,
    leave: second.leave,
  };
  const after = (column: string) => fields[fields.findIndex((field) => field.column === column) + 1]?.column;
  const keys = (e: React.KeyboardEvent) => {
    const at = fields.findIndex(({ column }) => inputId(column) === (e.target as HTMLElement).id);
    const open = (e.target as HTMLElement).getAttribute("aria-expanded") === "true";
    const command = e.ctrlKey || e.metaKey;
    const ahead = e.key === "Enter" && form.enter === "moves-on" ? "Tab" : e.key;
    const plain = ahead.length === 1 || (["Tab", "Enter", "Backspace"].includes(ahead) && !e.shiftKey);
    if (plain && !command && !e.altKey && second.hold(ahead)) {
      // It is keyed into the next paper.
    } else if (command && (e.key === "Enter" || e.key.toLowerCase() === "s")) second.finish();
    else if (e.key === "Enter" && at >= 0 && !e.shiftKey && !e.nativeEvent.isComposing && !chosen(open)) {
      const next = fields[at + 1];
      if (form.enter === "moves-on" && next) document.getElementById(inputId(next.column))?.focus();
      else second.end();
    } else if (e.key === "Escape" && at >= 0 && !open) second.putBack(fields[at]?.column ?? "");
    else if (e.altKey && e.key.toLowerCase() === "n") setAsking(true);
    else if (e.altKey && e.key.toLowerCase() === "b" && !now.busy) second.back();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const finish = () => second.finish();
  const column = now.choose?.column;
  return (
    <main className="desk second adding" onKeyDownCapture={keys}>
      <header className="top">
        <h1>{whole.title}</h1>
        <span className="chip">{door.title}</span>
        <span className="chip again">second keying, {state.way}</span>
        <span className="flex-1" />
        <span className="chip" role="status" aria-label="Papers that wait">
          {inWords(state.waiting)}
        </span>
        {state.settles && state.settling > 0 && (
          <Link className="btn" to={`/d/${door.id}/settle`}>
            {state.settling} to settle
          </Link>
        )}
        <Link className="btn quiet" to={`/d/${door.id}`}>
          First keying
        </Link>
      </header>
      <div className="mid">
        {now.paper && (
          <div className="the-paper">
            <span className="words">{now.paper.words}</span>
            {state.paper.length > 0 && (
              <button type="button" className="btn small" onClick={() => setAsking(true)}>
                Another paper <kbd>Alt N</kbd>
              </button>
            )}
          </div>
        )}
        {now.aside.length > 0 && (
          <p className="say ask">
            {now.aside.length === 1 ? "One paper is" : `${now.aside.length} papers are`} put aside:{" "}
            {now.aside.map(({ words }) => words).join(", ")}.{" "}
            <button type="button" className="btn small" onClick={() => second.back()}>
              Go back to it <kbd>Alt B</kbd>
            </button>
          </p>
        )}
        {asking && (
          <FindPaper
            form={whole}
            columns={state.paper}
            take={async (asked) => {
              if (!(await second.next(asked))) return;
              setAsking(false);
            }}
            close={() => {
              setAsking(false);
              document.getElementById(inputId(fields[0]?.column ?? ""))?.focus();
            }}
          />
        )}
        {now.paper ? (
          <FormView
            form={form}
            columns={table.columns}
            entry={view}
            presses={NONE}
            foot={
              <>
                {now.choose && column && (
                  <Choose
                    label={fieldsOf(form).find((field) => field.column === column)?.label ?? column}
                    both={now.choose.both}
                    choose={(which) => second.choice(which, after(column))}
                  />
                )}
                <div className="acts">
                  <button
                    type="button"
                    className="btn go"
                    disabled={now.busy || !!now.choose}
                    onClick={finish}
                  >
                    End this paper <kbd>{form.enter === "saves" ? "Enter" : "Ctrl Enter"}</kbd>
                  </button>
                  <button type="button" className="btn" onClick={() => second.leavePaper()}>
                    Put it back <kbd>Esc</kbd>
                  </button>
                </div>
              </>
            }
          />
        ) : (
          <NoPaper none={now.none} waiting={state.waiting} paper={state.paper} form={whole} second={second} />
        )}
      </div>
      <footer className="foot">
        {(
          [
            ["Tab", "next field"],
            ["Enter", form.enter === "saves" ? "end this paper" : "next field"],
            ["Esc", "clear the field, then put the paper back"],
          ] as const
        ).map(([key, what]) => (
          <span key={key} className="key">
            <kbd>{key}</kbd> {what}
          </span>
        ))}
        {now.done > 0 && <span className="key">{now.done} keyed in this session</span>}
        <span role="status" className={`said ${now.said.tone}`}>
          {now.said.text}
        </span>
      </footer>
    </main>
  );
}

const NONE = { can: () => false, press: () => {} };

/** Presses a key again that was pressed before its field was there. */
function pressed(key: string, fields: FormField[]) {
  const field = document.activeElement;
  if (key === "Backspace") document.execCommand("delete");
  else if (key !== "Tab") document.execCommand("insertText", false, key);
  else {
    // A list takes what it has come to.
    field?.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true }));
    const next = fields[fields.findIndex(({ column }) => inputId(column) === field?.id) + 1];
    if (next) document.getElementById(inputId(next.column))?.focus();
  }
}

/** Whether an entry of a list that hangs open is chosen, which Enter then takes. */
const chosen = (open: boolean) => open && document.querySelector('[role="option"][data-focused]') !== null;

function spoken(column: string, value: unknown): [string, string][] {
  if (value === undefined) return [];
  const link = value as { shown?: string } | null;
  return [[column, value === null ? "" : typeof value === "object" ? (link?.shown ?? "") : String(value)]];
}

const inWords = (waiting: number) =>
  waiting === 0 ? "none waits" : waiting >= 1000 ? "1,000 or more wait" : `${waiting} waiting`;

interface NoPaperProps {
  none: boolean;
  waiting: number;
  paper: string[];
  form: Form;
  second: Second;
}

/** No paper is in hand: the next one is a key away, if one waits. */
function NoPaper({ none, waiting, paper, form, second }: NoPaperProps) {
  const next = useRef<HTMLButtonElement>(null);
  useEffect(() => next.current?.focus(), []);
  return (
    <div className="box grid gap-3 p-5">
      <p>
        {none && waiting === 0
          ? "No paper waits for you here. One that you keyed first yourself is for somebody else."
          : "Take the paper that waits longest, or ask for one by what it is recognised by."}
      </p>
      <span>
        <button ref={next} type="button" className="btn go" onClick={() => second.next()}>
          Take the next paper <kbd>Enter</kbd>
        </button>
      </span>
      {paper.length > 0 && <FindPaper form={form} columns={paper} take={(asked) => second.next(asked)} />}
    </div>
  );
}
