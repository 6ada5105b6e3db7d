import { useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from "react";
import {
  answered,
  api,
  type Column,
  type DeskForm as Form,
  type May,
  Problem,
  type Ruled,
  type StoredRecord,
  type SeenTable as Table,
} from "../api/client";
import { ExportMenu } from "../find/ExportMenu";
import { KeepFind } from "../find/FindHead";
import { SortMenu } from "../find/SortMenu";
import { ChangeMany, type Which } from "../history/ChangeMany";
import { RemovedList } from "../history/RemovedList";
import { counted, grouped } from "../model/counted";
import { when } from "../model/when";
import { finding, levels, pressed, question } from "../rows/ask";
import { RowsGrid } from "../rows/RowsGrid";
import { byRow, inView, KEYED, LISTED, PAGE } from "../rows/source";
import type { Seen } from "../sitting/removing";
import type { DeskDoings } from "../sitting/useDesk";
import { useCorrection } from "./useCorrection";
import { useMakingOne } from "./useMakingOne";

/** How far each record has come with its keyings, beside the columns of the form. */
const STANDING: Column = {
  name: KEYED,
  title: "Keyed",
  type: "choice",
  required: false,
  unique: false,
  choices: ["once", "waiting", "differing", "settled"],
  longest: null,
  max: null,
  min: null,
  removed: null,
  scale: null,
  shown: null,
  shownOnly: "It is kept beside the records.",
  to: null,
};

const MakeOne = lazy(() => import("../alike/MakeOne").then((m) => ({ default: m.MakeOne })));

interface Props {
  form: Form;
  table: Table;
  columns: Column[];
  desk: DeskDoings;
  ruled: Ruled;
  /** Since when what was removed is asked for first; nothing where rows are. */
  removed: string | null;
  leave: () => void;
}

/** The records in view as rows, from which one is opened and several are removed; and those that were removed. */
export function RowsDrawer({ form, table, columns: ofForm, desk, ruled, removed, leave }: Props) {
  const columns = useMemo(() => (form.door.keyedTwice ? [...ofForm, STANDING] : ofForm), [form, ofForm]);
  const { find, browse, sitting, removal } = desk;
  const [view, setView] = useState<"rows" | "removed">(removed === null ? "rows" : "removed");
  const [since, setSince] = useState(removed ?? "");
  const [active, setActive] = useState(0);
  const [anchor, setAnchor] = useState(0);
  const [chosen, setChosen] = useState<ReadonlyMap<number, Seen>>(new Map());
  const [changing, setChanging] = useState<Which>();
  const [changed, setChanged] = useState<{ id: number; records: number }>();
  /** What came of the last change; the strip below tells of the record in the form. */
  const [note, setNote] = useState("");
  const correcting = useCorrection(form, table, ruled, desk);
  const may = (what: May) => form.door.may.includes(what);
  const queries = useQueryClient();
  const ask = find.settled;
  const formOrder = form.order?.map((level) => (level.down ? "-" : "") + level.column).join(",") ?? "";
  const order = ask.sort || formOrder || "row";
  const plain = form.door.all && !finding(ask) && order === "row";
  const total = find.asking ? find.read?.total : desk.total;
  const count = total?.count ?? 0;
  const asked = JSON.stringify(ask);
  const source = useMemo(
    () => (plain ? byRow(table, form.door.id) : inView(form.door.id, table.name, JSON.parse(asked), count)),
    [plain, table, form.door.id, asked, count],
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: another question has other lines, and so has a removal
  useEffect(() => {
    setChosen(new Map());
    setActive(0);
  }, [asked, removal.finished]);

  const here = browse.place?.record?.row ?? sitting.kept[0]?.record.row;
  const line = plain ? here : (browse.place?.position ?? undefined);

  const linesBetween = async (from: number, to: number): Promise<StoredRecord[]> => {
    const [first, last] = from < to ? [from, to] : [to, from];
    const found: StoredRecord[] = [];
    for (let page = Math.floor((first - 1) / PAGE); page <= Math.floor((last - 1) / PAGE); page++) {
      const lines = await queries.fetchQuery(source.page(page));
      for (const [at, record] of lines) if (at >= first && at <= last) found.push(record);
    }
    return found;
  };

  const choose = (records: StoredRecord[]) => setChosen(new Map(records.map((each) => [each.id, each])));

  const change = () =>
    setChanging(
      chosen.size > 0
        ? { ids: [...chosen.keys()], count: chosen.size }
        : { where: question(ask).where ?? [], any: question(ask).any, count },
    );
  /** What was changed last is as it was before. */
  const takeBack = async () => {
    if (!changed) return;
    try {
      const { records } = await answered(
        api.POST("/api/doors/{door}/changes/{id}/take-back", {
          params: { path: { door: form.door.id, id: changed.id } },
        }),
      );
      setNote(`${counted(records, "record is", "records are", form)} again as before`);
      setChanged(undefined);
    } catch (e) {
      sitting.say(e instanceof Problem ? e.message : "No connection. Nothing was taken back.", "stop");
    }
  };

  const frame = useRef<HTMLElement>(null);
  const one = useMakingOne(
    form,
    (words, ok) => (ok ? setNote(words) : sitting.say(words, "stop")),
    (now) => {
      const open = sitting.entry.snapshot().record?.id;
      if (open !== undefined && (open === now.id || chosen.has(open))) desk.open(now.id);
      setChosen(new Map());
      browse.refresh(browse.ask);
    },
  );
  const wasOpen = useRef(one.open);
  useEffect(() => {
    // The button is there no more; one goes on in the rows.
    if (wasOpen.current && !one.open) frame.current?.querySelector<HTMLElement>('[role="grid"]')?.focus();
    wasOpen.current = one.open;
  }, [one.open]);

  const next = plain ? (table.nextRow ?? 1) : 1;
  const current = active || (browse.place && line) || next;
  const handling = {
    active: current,
    goTo: async (to: number, extend: boolean) => {
      const from = extend ? anchor || current : to;
      setActive(to);
      setAnchor(from);
      if (extend) choose(await linesBetween(from, to));
    },
    open: (record: StoredRecord) => {
      leave();
      desk.open(record.id);
    },
    selected: (record: StoredRecord) => chosen.has(record.id),
    toggle: (record: StoredRecord, at: number) => {
      setActive(at);
      setAnchor(at);
      const next = new Map(chosen);
      if (!next.delete(record.id)) next.set(record.id, record);
      setChosen(next);
    },
    selectAll: async () => {
      if (count > LISTED)
        sitting.say(`Up to ${grouped(LISTED, form)} records are selected at once. Find fewer.`, "stop");
      else choose(await linesBetween(1, source.count));
    },
    remove: (record: StoredRecord | undefined) => {
      const all = chosen.size > 0 ? [...chosen.values()] : record ? [record] : [];
      if (all.length > 0) removal.ask(all);
    },
    leave,
  };

  return (
    <section ref={frame} className="rows-drawer" aria-label="Rows">
      <div className="cap">
        <b>{view === "removed" ? "Removed" : "Rows in view"}</b>
        {view === "removed" && since && (
          <>
            <span>since {Number.isNaN(Date.parse(since)) ? `“${since}”` : when(since)}</span>
            <button type="button" className="btn small" onClick={() => setSince("")}>
              Show earlier ones too
            </button>
          </>
        )}
        {view === "rows" && (
          <span>
            {total?.exact === false && "about "}
            {grouped(count, form)}
            {finding(ask) && table.rows !== null && ` of ${grouped(table.rows, form)}`}
          </span>
        )}
        {chosen.size > 0 && view === "rows" && (
          <>
            <span className="text-indigo">{grouped(chosen.size, form)} selected</span>
            {one.may && chosen.size > 1 && chosen.size <= 10 && (
              <button type="button" className="btn small" onClick={() => one.setOpen(true)}>
                Make them one…
              </button>
            )}
            {may("remove") && (
              <button type="button" className="btn small" onClick={() => removal.ask([...chosen.values()])}>
                Remove… <kbd>Del</kbd>
              </button>
            )}
          </>
        )}
        {may("change") && view === "rows" && count > 0 && (
          <button type="button" className="btn small" onClick={change}>
            {chosen.size > 0 ? "Change them…" : "Change all…"}
          </button>
        )}
        {one.made && view === "rows" && (
          <button type="button" className="btn small" onClick={one.takeBack}>
            Take it back
          </button>
        )}
        {changed && view === "rows" && (
          <button type="button" className="btn small" onClick={takeBack}>
            Take {counted(changed.records, "change", "changes", form)} back
          </button>
        )}
        {note && view === "rows" && (
          <span aria-live="polite" className="font-semibold text-woad">
            {note}
          </span>
        )}
        <span className="flex-1" />
        {view === "rows" && (
          <>
            {finding(ask) && <KeepFind form={form} desk={desk} />}
            <SortMenu
              columns={columns}
              sort={order}
              words={find.read?.order}
              change={(sort) => browse.refresh({ ...browse.ask, sort })}
            />
            <ExportMenu form={form} asked={question(ask)} total={count} say={sitting.say} />
          </>
        )}
        {may("remove") && (
          <button
            type="button"
            className="btn small"
            onClick={() => setView(view === "rows" ? "removed" : "rows")}
          >
            {view === "rows" ? "Removed" : "Rows in view"}
          </button>
        )}
      </div>
      {view === "removed" ? (
        <RemovedList
          form={form}
          table={table}
          columns={columns}
          since={since}
          removal={removal}
          leave={leave}
        />
      ) : (
        <RowsGrid
          name={`Rows of ${table.title}`}
          table={table.name}
          source={source}
          columns={columns}
          mark={here}
          // Whoever types a new entry sees the row that it will get.
          inSight={browse.place ? line : next}
          found={Object.keys(ask.where).filter((column) => ask.where[column]?.trim())}
          sort={{
            of: (column) => sign(order, column),
            press: (column, more) =>
              column !== KEYED && browse.refresh({ ...browse.ask, sort: pressed(order, column, more) }),
          }}
          handling={handling}
          correcting={correcting}
        />
      )}
      {one.open && (
        <Suspense fallback={null}>
          <MakeOne
            door={form.door.id}
            columns={ofForm.filter(({ shownOnly }) => !shownOnly)}
            records={[...chosen.values()]}
            close={() => one.setOpen(false)}
            done={one.done}
          />
        </Suspense>
      )}
      {changing && (
        <ChangeMany
          form={form}
          columns={columns}
          which={changing}
          close={() => setChanging(undefined)}
          done={(made) => {
            setChanging(undefined);
            if (made.id !== null) setChanged({ id: made.id, records: made.changed });
            setNote(
              `${grouped(made.changed, form)} changed${made.stopped > 0 ? `; ${grouped(made.stopped, form)} stayed as they were, since something was in the way` : ""}`,
            );
          }}
        />
      )}
      {source.count === LISTED && count > LISTED && view === "rows" && (
        <p className="cap">
          The first {grouped(LISTED, form)} are listed. Find fewer, or turn the order round.
        </p>
      )}
    </section>
  );
}

/** How a column takes part in an order: its arrow, and its place when there are several. */
function sign(order: string, column: string): string {
  const all = levels(order);
  const at = all.findIndex((level) => level.column === column);
  if (at < 0) return "";
  return `${all.length > 1 ? `${at + 1} ` : ""}${all[at]?.down ? "↓" : "↑"}`;
}
