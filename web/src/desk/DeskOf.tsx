import { useQuery } from "@tanstack/react-query";
import { Pencil } from "lucide-react";
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { Link, useSearchParams } from "react-router";
import type { Finding, DeskForm as Form, May, Ruled, SeenTable as Table } from "../api/client";
import { nextRowQuery } from "../api/queries";
import { LinesSwitch } from "../batch/LinesSwitch";
import { outdated, standing } from "../entry/derived";
import { changes, ruled, shownFindings } from "../entry/entry";
import type { FormLines } from "../entry/sheet";
import { QUICK } from "../find/quick";
import { FormView } from "../form/FormView";
import type { EntryView } from "../form/view";
import { Done } from "../frame/Done";
import { fieldsOf, focusable, isButton, itemsOf } from "../model/items";
import { builds, sessionQuery } from "../people/session";
import { type DeskDoings, useDesk } from "../sitting/useDesk";
import { DeskFoot } from "./DeskFoot";
import { useEarlyPaste, useParts, withParts } from "./later";
import { Rail } from "./Rail";
import { useDeskKeys } from "./useDeskKeys";
import { usePresses } from "./usePresses";
import { useStays } from "./useStays";
import { useVisits } from "./useVisits";

interface Props {
  form: Form;
  version: number | undefined;
  table: Table;
  ruled: Ruled;
  /** To many lines at once, where the door leaves it open. */
  other: (() => void) | undefined;
}

/** A form open at the Desk: the rail, the form, the tray, the rows drawer and the strip of keys. */
export function DeskOf({ form, version, table, ruled, other }: Props) {
  // Whatever leads here may ask for what was removed since then.
  const [search] = useSearchParams();
  const [removed] = useState(form.door.may.includes("remove") ? search.get("removed") : null);
  const [rows, setRows] = useState(removed !== null);
  const [over, setOver] = useState<"keys" | "history">();
  const desk = useDesk(form, version, table);
  const parts = useParts();
  const building = builds(useQuery(sessionQuery).data?.person) && !form.door.byLink;
  const { sitting, find, removal } = desk;
  const may = (what: May) => form.door.may.includes(what);
  const next = useQuery({ ...nextRowQuery(form.door.id), enabled: form.door.all }).data?.row;
  const record = sitting.state.record;
  // The drawer takes room from below; the field one types in stays in view.
  useEffect(() => {
    if (rows) document.activeElement?.scrollIntoView({ block: "nearest" });
  }, [rows]);

  useEffect(() => {
    if (parts && removed !== null) listShown()?.focus();
  }, [parts, removed]);

  const toForm = () => {
    if (document.activeElement?.closest(".rows-drawer")) sitting.focusFirst();
  };
  /** F8 shows the rows, goes into them, and hides them. */
  const rowsShown = useRef(rows);
  rowsShown.current = rows;
  const turnRows = () => may("see") && withParts(turn);
  const turn = () => {
    const list = listShown();
    if (!rowsShown.current) flushSync(() => setRows(true));
    else if (list && !list.contains(document.activeElement)) list.focus();
    else {
      toForm();
      setRows(false);
    }
  };
  const remove = () => {
    if (record && !find.asking && may("remove")) removal.ask([record]);
  };
  const history = () => record && !find.asking && setOver("history");
  const { doing, visit, back } = useVisits(form, table, desk);
  const follow = useCallback((column: string) => followed.current(column), []);
  const followed = useRef((_: string) => {});
  followed.current = (column) => doing(column)?.go();
  const presses = usePresses(form, table, desk, remove);
  useDeskKeys(form, {
    desk,
    presses,
    rows: turnRows,
    keys: () => setOver("keys"),
    remove,
    history,
    lines: other,
    follow,
    back: visit && back,
    quick: () => document.getElementById(QUICK)?.focus(),
    covered: !!over || !!desk.leaving || removal.asked.length > 0 || !!desk.record.conflict,
  });
  /** A click into the form goes back into what was refused there. */
  const backByClick = (e: React.PointerEvent) => {
    if (!sitting.question || (e.target as HTMLElement).closest(".refused")) return;
    if ((e.target as HTMLElement).closest(".form")) sitting.question.back();
  };
  const { entry } = sitting;
  useEffect(() => {
    if (!parts) return;
    entry.measure ??= new parts.Measure(entry);
    entry.measure.follow(fieldsOf(form).map(({ column }) => column));
    return entry.measure.watch();
  }, [parts, entry, form]);
  useLayoutEffect(() => {
    entry.known = ruled;
  }, [entry, ruled]);
  const middle = useRef<HTMLDivElement>(null);
  useEarlyPaste(middle);
  const typable = useMemo(() => focusable(form).filter((field) => field.use !== "read-only"), [form]);
  // The same from key to key, so that only the fields that changed are drawn again.
  const type = useCallback((column: string, text: string) => entry.type(column, text), [entry]);
  const leaveField = useStays(form, entry, sitting.say);
  const view = find.asking
    ? asQuestion(desk)
    : {
        ...asEntry(form, table, desk, type, leaveField),
        ruled,
        links: (column: string) => doing(column)?.words,
        follow,
        likes: (column: string) => parts && <parts.Likes form={form} desk={desk} column={column} />,
        plot: (finding: Finding) =>
          // What is asked shows it already.
          parts && !sitting.question && <parts.FieldPlot form={form} finding={finding} />,
        lines: (item: FormLines) =>
          parts && (
            <parts.FormLinesGrid
              door={form.door.id}
              item={item}
              entry={entry}
              state={sitting.state}
              open={may(record ? "change" : "add")}
            />
          ),
      };
  const columns = fieldsOf(form).flatMap((field) => {
    const column = table.columns.find((each) => each.name === field.column);
    return column ? [{ ...column, title: field.label }] : [];
  });
  return (
    <main
      className={`desk ${find.asking ? "asking" : ""} ${may("see") ? "" : "adding"} ${form.door.byLink ? "nobody" : ""}`}
    >
      <header className="top">
        <h1>{form.door.byLink ? form.door.title : form.title}</h1>
        <span className="chip">{form.door.title}</span>
        <span className="chip writes">
          writes to <span className="font-mono">{form.table}</span>
        </span>
        <span className="flex-1" />
        {may("see") && parts && <parts.OthersHere place={{ door: form.door.id }} />}
        {form.door.twice && (
          <Link className="btn quiet" to="twice">
            Second keying
          </Link>
        )}
        {other && <LinesSwitch many={false} choose={other} />}
        {may("see") && (parts ? <parts.QuickBox desk={desk} /> : <div className="quick" />)}
        {form.door.all && (
          <span className="chip next">
            Next free row <b className="font-mono">{next ?? "…"}</b>
          </span>
        )}
        {building && (
          <Link
            className="btn quiet icon"
            to={`/bench/${form.id}`}
            state={{ back: `/d/${form.door.id}${record ? `?row=${record.row}` : ""}` }}
            aria-label="Change this form"
            title="Change this form"
          >
            <Pencil size={17} aria-hidden="true" />
          </Link>
        )}
        <Done door={form.door} />
      </header>
      {may("see") && <Rail form={form} desk={desk} adds={may("add")} />}
      <div className="mid" ref={middle} onPointerDownCapture={backByClick}>
        {form.door.byLink && parts && <parts.Waiting form={form} desk={desk} />}
        {visit && parts && <parts.OnTheWay visit={visit} back={back} />}
        {parts && <parts.Offer form={form} desk={desk} />}
        <FormView
          form={record && !may("change") ? reading(form) : form}
          columns={table.columns}
          entry={view}
          presses={presses}
          head={find.asking && parts && <parts.FindHead form={form} desk={desk} />}
          foot={
            find.asking ? (
              parts && <parts.FindFoot form={form} desk={desk} />
            ) : sitting.question ? (
              parts && <parts.Refused desk={desk} form={form} question={sitting.question} />
            ) : (
              <Acts
                form={form}
                desk={desk}
                changed={Object.keys(view.was).length > 0 || entry.dirty}
                next={next}
                rows={rows}
                turnRows={turnRows}
                remove={remove}
                history={history}
              />
            )
          }
        />
      </div>
      {!form.door.byLink &&
        (parts ? (
          <parts.Tray form={form} desk={desk} />
        ) : (
          <aside className="tray empty" aria-hidden="true" />
        ))}
      {rows && parts && (
        <parts.RowsDrawer
          form={form}
          table={table}
          columns={columns}
          desk={desk}
          ruled={ruled}
          removed={removed}
          leave={toForm}
        />
      )}
      <DeskFoot form={form} desk={desk} rows={rows} />
      {parts && (
        <>
          {over === "keys" && <parts.KeysHelp close={() => setOver(undefined)} />}
          {over === "history" && record && (
            <parts.HistoryView
              form={form}
              table={table}
              record={record}
              desk={desk}
              close={() => setOver(undefined)}
            />
          )}
          <parts.Printed record={record} />
          <parts.AskRemoval form={form} desk={desk} />
          <parts.AskLeaving desk={desk} />
          <parts.ConflictView form={form} desk={desk} />
          {!find.asking && (!record || may("change")) && (
            <parts.SpreadOffer frame={middle} fields={typable} entry={entry} />
          )}
        </>
      )}
    </main>
  );
}

/** What the drawer lists, for the keys. */
const listShown = () =>
  document.querySelector<HTMLElement>(".rows-drawer [role=grid], .rows-drawer .removed");

/** A form whose fields can be gone into and copied from only. */
const reading = (form: Form): Form => ({
  ...form,
  sections: form.sections.map((section) => ({
    ...section,
    items: section.items.map((item) =>
      item.kind === "field" && (!item.use || item.use === "open") ? { ...item, use: "read-only" } : item,
    ),
  })),
});

function asEntry(
  form: Form,
  table: Table,
  { sitting }: DeskDoings,
  type: EntryView["type"],
  leave: EntryView["leave"],
): EntryView {
  const { state } = sitting;
  return {
    ...ruled(state, sitting.entry),
    typed: standing(form, table, state),
    was: { ...changes(state), ...outdated(form, table, state) },
    values: state.assessment?.values ?? state.record?.values ?? {},
    readings: state.assessment?.readings ?? {},
    findings: shownFindings(state),
    type,
    leave,
  };
}

function asQuestion({ find }: DeskDoings): EntryView {
  const read = Object.entries(find.read?.criteria ?? {});
  return {
    asking: true,
    typed: find.criteria,
    was: {},
    values: {},
    readings: Object.fromEntries(read.flatMap(([column, { words }]) => (words ? [[column, words]] : []))),
    findings: read.flatMap(([field, { message }]) =>
      message && find.criteria[field]?.trim()
        ? [{ field, code: "unreadable", severity: "stop", message, rule: "" }]
        : [],
    ),
    type: find.type,
    leave: stay,
  };
}

const stay = () => {};

interface ActsProps {
  form: Form;
  desk: DeskDoings;
  /** Whether there is something in the record that is not stored. */
  changed: boolean;
  next: number | undefined;
  rows: boolean;
  turnRows: () => void;
  remove: () => void;
  history: () => void;
}

/** What can be done with the entry in the form. */
function Acts({ form, desk, changed, next, rows, turnRows, remove, history }: ActsProps) {
  const { state, entry } = desk.sitting;
  const { record } = state;
  const may = (what: May) => form.door.may.includes(what);
  const key = form.enter === "saves" ? "Enter" : "Ctrl Enter";
  const own = itemsOf(form).some(
    (item) => isButton(item) && (item.action === "save" || item.action === "clear"),
  );
  return (
    <div className="acts">
      {!own && may(record ? "change" : "add") && (
        <>
          <button type="button" className="btn go" disabled={!!record && !changed} onClick={desk.save}>
            {record ? `Save row ${record.row}` : `Save${next ? ` in row ${next}` : ""}`} <kbd>{key}</kbd>
          </button>
          <button type="button" className="btn" disabled={!!record && !entry.dirty} onClick={desk.putBack}>
            {record ? "Put back" : "Clear"}
          </button>
        </>
      )}
      {record && (
        <>
          <button type="button" className="btn quiet" title="Alt+H" onClick={history}>
            History
          </button>
          {may("remove") && (
            <button type="button" className="btn quiet" title="Alt+Delete" onClick={remove}>
              Remove
            </button>
          )}
        </>
      )}
      <span className="flex-1" />
      {may("see") && (
        <>
          <button type="button" className="btn quiet" onClick={desk.find.open}>
            Find <kbd>Ctrl F</kbd>
          </button>
          <button type="button" className="btn quiet" aria-expanded={rows} onClick={turnRows}>
            Rows <kbd>F8</kbd>
          </button>
        </>
      )}
    </div>
  );
}
