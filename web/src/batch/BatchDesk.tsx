import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { flushSync } from "react-dom";
import type { BatchSaved, DeskForm, Ruled, SeenTable } from "../api/client";
import { nextRowQuery } from "../api/queries";
import type { Typed } from "../entry/outbox";
import { used } from "../entry/used";
import { Done } from "../frame/Done";
import { useLiveTable } from "../live/live";
import { grouped } from "../model/counted";
import { fieldsOf, seen } from "../model/items";
import { useSubscribed } from "../model/useSubscribed";
import { undone } from "../sitting/removing";
import { useSwitch } from "../sitting/useSwitch";
import type { At } from "./at";
import { BatchAsks } from "./BatchAsks";
import { BatchGrid } from "./BatchGrid";
import { BatchKeys } from "./BatchKeys";
import { Batch, inRows } from "./batch";
import { LinesSwitch } from "./LinesSwitch";
import { findingsOf } from "./model";
import { placeOf } from "./place";
import { Same } from "./Same";
import { sameOf } from "./same";
import { useBatchKeys } from "./useBatchKeys";

/** So many entries are taken back by one request. */
const AT_ONCE = 200;

interface Props {
  form: DeskForm;
  version: number | undefined;
  table: SeenTable;
  ruled: Ruled;
  /** To one entry at a time, where the door leaves it open. */
  other: (() => void) | undefined;
}

/** What was saved last, which can be taken back. */
interface Last {
  rows: BatchSaved["rows"];
  lines: Typed[];
}

/** Many entries at once, a line each, under what is the same on all of them. */
export function BatchDesk({ form, version, table, ruled, other }: Props) {
  const { door } = form;
  const batch = useMemo(
    () => new Batch(door.id, door.byLink ? "" : placeOf(door.id), door.keep === "passing"),
    [door.id, door.byLink, door.keep],
  );
  batch.version = version;
  batch.way = form;
  const state = useSubscribed(batch);
  const same = sameOf(form);
  const fields = fieldsOf(form).filter((field) => seen(field) && !same.includes(field));
  const [at, setAt] = useState<At>();
  const [keys, setKeys] = useState(false);
  const [last, setLast] = useState<Last>();
  const frame = useRef<HTMLElement>(null);
  const client = useQueryClient();
  const next = useQuery({ ...nextRowQuery(door.id), enabled: door.all }).data?.row;

  const move = (to: At) => flushSync(() => setAt(to));
  useLayoutEffect(() => {
    const input = at && document.getElementById("cell");
    input?.focus();
    if (input instanceof HTMLInputElement) input.select();
  }, [at]);
  const toSame = () => {
    const first = frame.current?.querySelector<HTMLInputElement>(".same input:not([readonly])");
    setAt(first ? undefined : { line: 0, column: 0 });
    first?.focus();
    first?.select();
  };
  batch.saved = (saved, lines) => {
    setLast({ rows: saved.rows, lines });
    used(door.id, saved.rows.length);
    client.invalidateQueries({ queryKey: nextRowQuery(door.id).queryKey });
    if (saved.left.length === 0) toSame();
  };
  batch.shows = (line, column) => {
    const place = fields.findIndex((field) => field.column === column);
    move({ line, column: Math.max(0, place) });
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: the cursor is put down once
  useLayoutEffect(() => toSame(), [batch]);
  useEffect(() => {
    batch.begin();
    return () => batch.end();
  }, [batch]);
  const switched = useSwitch(form, batch.empty && !state.sending);
  useLiveTable(
    door.byLink ? undefined : table.name,
    {
      heard: () => {
        client.invalidateQueries({ queryKey: nextRowQuery(door.id).queryKey });
        batch.again();
      },
      redefined: switched,
      published: (changed) => changed === form.id && switched(),
    },
    door.id,
  );

  const save = () => batch.save();
  useBatchKeys({
    batch,
    fields,
    ruled,
    at,
    move,
    save,
    keys: () => setKeys(true),
    other,
    toSame,
    covered: keys,
  });

  const typed = batch.typed;
  const wrong = typed.filter(({ line }) =>
    findingsOf(state, line).some(({ severity }) => severity === "stop"),
  ).length;
  // While one is in the way, it is not known yet which rows all of them get.
  const rows = wrong > 0 ? [] : typed.flatMap(({ line }) => state.read.get(line.id)?.row ?? []);
  const takeBack = async () => {
    let left = last;
    try {
      // As many as one request takes, the last ones first.
      while (left) {
        const { rows, lines }: Last = left;
        const some = rows.slice(-AT_ONCE);
        await undone(door.id, some);
        batch.paste(0, { lines: lines.slice(-some.length), leftOut: "" });
        used(door.id, -some.length);
        left =
          some.length < rows.length
            ? { rows: rows.slice(0, -some.length), lines: lines.slice(0, -some.length) }
            : undefined;
        setLast(left);
      }
      if (last)
        batch.say(
          `${inRows(last.rows.map(({ row }) => row))} taken back; what was keyed stands here again`,
          "ok",
        );
    } catch (e) {
      batch.say((e as Error).message, "stop");
    }
  };
  const mayTakeBack = door.may.includes("remove") || door.takeBack > 0;
  return (
    <main className="desk batch" ref={frame}>
      <header className="top">
        <h1>{door.byLink ? door.title : form.title}</h1>
        <span className="chip">{door.title}</span>
        <span className="chip writes">
          writes to <span className="font-mono">{form.table}</span>
        </span>
        <span className="flex-1" />
        {other && <LinesSwitch many choose={other} />}
        {rows.length === 0 && door.all && (
          <span className="chip next">
            Next free row <b className="font-mono">{next ?? "…"}</b>
          </span>
        )}
        {rows.length > 0 && (
          <span className="chip next">
            Next free {rows.length === 1 ? "row" : "rows"}{" "}
            <b className="font-mono">{inRows(rows).replace(/^rows? /, "")}</b>
          </span>
        )}
        <Done door={door} />
      </header>
      <div className="mid">
        <Same form={form} table={table} fields={same} batch={batch} state={state} ruled={ruled} />
        <div className="lines-head">
          <h2>{typed.length === 1 ? "1 line" : `${grouped(typed.length, form)} lines`}</h2>
          <span className="text-soft">
            {state.checking && typed.length > 200
              ? `checking ${state.checked === undefined ? "" : `${grouped(state.checked, form)} of ${grouped(typed.length, form)} `}…`
              : typed.length > 0 &&
                `${grouped(typed.length - wrong, form)} ready${wrong > 0 ? `, ${grouped(wrong, form)} to put right` : ""}`}
          </span>
          {state.checking && typed.length > 200 && (
            <button type="button" className="btn small" onClick={() => batch.giveUp()}>
              Cancel <kbd>Esc</kbd>
            </button>
          )}
          <span className="flex-1" />
          <span className="text-soft">Paste cells from anywhere: they spread from where the cursor is</span>
        </div>
        <BatchGrid
          all={door.all}
          next={next}
          fields={fields}
          columns={table.columns}
          ruled={ruled}
          batch={batch}
          state={state}
          at={at}
          move={move}
        />
        {state.question.length > 0 && <BatchAsks batch={batch} state={state} />}
        <div className="acts">
          <button
            type="button"
            className="btn go"
            disabled={typed.length === 0 || !!state.sending}
            onClick={save}
          >
            {typed.length === 0
              ? "Save"
              : `Save ${typed.length === 1 ? "1 line" : `${grouped(typed.length, form)} lines`}`}
            {rows.length > 0 && ` in ${inRows(rows)}`} <kbd>Ctrl Enter</kbd>
          </button>
          <button
            type="button"
            className="btn"
            disabled={typed.length === 0}
            onClick={() => {
              batch.clear();
              move({ line: 0, column: 0 });
            }}
          >
            Clear
          </button>
          <span className="text-soft">
            {door.keep === "passing" ? "Lines that pass are saved, the others stay" : "All together or none"}
          </span>
          <span className="flex-1" />
          {last && mayTakeBack && (
            <button type="button" className="btn quiet" onClick={takeBack}>
              Take {inRows(last.rows.map(({ row }) => row))} back
            </button>
          )}
        </div>
      </div>
      <footer className="foot">
        {(
          [
            ["Tab", "next cell"],
            ["Enter", "next line"],
            ["Alt ↑", "as above"],
            ["Ctrl Del", "take the line out"],
            ["F1", "all keys"],
          ] as const
        ).map(([key, what]) => (
          <span key={key} className="key">
            <kbd>{key}</kbd> {what}
          </span>
        ))}
        <span role="status" className={`said ${state.said.tone}`}>
          {state.said.text}
        </span>
      </footer>
      {keys && <BatchKeys close={() => setKeys(false)} />}
    </main>
  );
}
