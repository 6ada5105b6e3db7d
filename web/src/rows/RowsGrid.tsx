import { useQueries } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type KeyboardEvent, type ReactNode, useEffect, useRef, useState } from "react";
import type { Choice, Column, FormField, StoredRecord } from "../api/client";
import { Stored } from "../model/Stored";
import { FACTS } from "../model/types";
import { useShown } from "../model/way";
import { type Ahead, CellInPlace, type InTheWay } from "./CellInPlace";
import { PAGE, type Source } from "./source";
import { useWidths } from "./useWidths";

const LINE = 32;

/** What can be done with the lines of a grid. */
export interface Handling {
  /** The line that the keys act on, from 1. */
  active: number;
  goTo: (line: number, extend: boolean) => void;
  open: (record: StoredRecord) => void;
  selected: (record: StoredRecord) => boolean;
  toggle: (record: StoredRecord, line: number) => void;
  selectAll: () => void;
  remove: (record: StoredRecord | undefined) => void;
  leave: () => void;
}

/** How single cells are corrected in place. */
export interface Correcting {
  /** The field that a column's values are typed into; none where they are not corrected in place. */
  field: (column: string) => FormField | undefined;
  text: (record: StoredRecord, column: string) => string;
  list: (
    record: StoredRecord,
    column: string,
  ) => ((column: string, typed: string) => Promise<Choice[]>) | undefined;
  keep: (
    record: StoredRecord,
    column: string,
    typed: string,
    answers: Record<string, string>,
  ) => Promise<InTheWay | undefined>;
  /** Somebody wants to correct what can't be. */
  refused: (title: string) => void;
}

interface Props {
  name: string;
  /** The name of the table, under which the widths of its columns are kept. */
  table: string;
  source: Source;
  columns: Column[];
  /** A record to mark: the one in the form, or the one just saved. */
  mark?: number;
  /** A line to bring into view when it changes. */
  inSight?: number;
  /** The columns that are found by; their values are marked. */
  found?: string[];
  /** How a heading shows the order, and what a press on it does. */
  sort?: { of: (column: string) => string; press: (column: string, more: boolean) => void };
  handling?: Handling;
  correcting?: Correcting | undefined;
}

/** Lines of records under their columns; only those in view are fetched and drawn. */
export function RowsGrid(props: Props) {
  const { name, table, source, columns, mark, inSight, found = [], sort, handling, correcting } = props;
  // The cell that Left and Right go to, by its place; none while the keys are for whole lines.
  const [cell, setCell] = useState(-1);
  const [editing, setEditing] = useState(false);
  // What is keyed for a cell whose record is still on its way.
  const ahead = useRef<Ahead>({ text: undefined, keep: false });
  const frame = useRef<HTMLDivElement>(null);
  const lines = useVirtualizer({
    count: source.count,
    getScrollElement: () => frame.current,
    estimateSize: () => LINE,
    overscan: 10,
    initialOffset: 0,
    paddingStart: LINE,
    scrollPaddingStart: LINE,
  });
  const inView = lines.getVirtualItems();
  const pages = [...new Set(inView.map((line) => Math.floor(line.index / PAGE)))];
  const fetched = useQueries({ queries: pages.map((page) => source.page(page)) });
  const pageOf = (line: number) => fetched[pages.indexOf(Math.floor((line - 1) / PAGE))];
  const recordAt = (line: number) => pageOf(line)?.data?.get(line);

  const shown = useShown();
  const widths = useWidths(table, columns, fetched.find(({ data }) => data?.size)?.data);

  useEffect(() => {
    if (inSight) lines.scrollToIndex(inSight - 1, { align: "auto" });
  }, [inSight, lines]);

  const active = handling?.active ?? 0;
  useEffect(() => {
    if (active) lines.scrollToIndex(active - 1, { align: "auto" });
  }, [active, lines]);

  const step = Math.max(1, Math.floor((frame.current?.clientHeight ?? 300) / LINE) - 2);
  const keys: Record<string, number> = {
    ArrowDown: active + 1,
    ArrowUp: active - 1,
    PageDown: active + step,
    PageUp: active - step,
    Home: 1,
    End: source.count,
  };
  const pressed = (e: KeyboardEvent) => {
    if (e.target !== e.currentTarget) return;
    const toSide = { ArrowRight: 1, ArrowLeft: -1 }[e.key];
    if (toSide && e.altKey && e.shiftKey) {
      const at = columns[Math.max(0, cell)];
      if (at) widths.draw(at.name, widths.of(at.name) + toSide * 16);
      return e.preventDefault();
    }
    if (toSide && (correcting || !handling)) {
      setCell(Math.max(-1, Math.min(columns.length - 1, cell + toSide)));
      return e.preventDefault();
    }
    if (!handling) return;
    const record = recordAt(active);
    const line = keys[e.key];
    const column = columns[cell];
    const waits = !record && !pageOf(active)?.isSuccess;
    if (editing && !record) {
      const keyed = waits && keyedAhead(e, ahead.current);
      if (!keyed) setEditing(false);
      if (keyed || e.key === "Escape") return e.preventDefault();
    }
    if (correcting && e.key === "Enter" && column && (record || waits)) {
      ahead.current = { text: undefined, keep: false };
      if (correcting.field(column.name)) setEditing(true);
      else correcting.refused(column.title);
    } else if (line !== undefined) handling.goTo(Math.min(Math.max(1, line), source.count), e.shiftKey);
    else if (e.key === "Enter" && record) handling.open(record);
    else if (e.key === " " && record) handling.toggle(record, active);
    else if (e.key === "Delete") handling.remove(record);
    else if (e.key === "Escape") handling.leave();
    else if (e.key.toLowerCase() === "a" && (e.ctrlKey || e.metaKey)) handling.selectAll();
    else return;
    e.preventDefault();
  };

  const tracks = `${Math.max(56, String(source.count).length * 9 + 24)}px ${columns.map((each) => `${widths.of(each.name)}px`).join(" ")}`;
  return (
    <div
      className="rows"
      ref={frame}
      role="grid"
      aria-label={name}
      aria-rowcount={source.count + 1}
      aria-multiselectable={handling ? true : undefined}
      aria-activedescendant={handling && active ? `line-${active}` : undefined}
      tabIndex={0}
      onKeyDown={pressed}
    >
      <div role="presentation">
        <div role="row" className="line head" style={{ gridTemplateColumns: tracks }}>
          <Heading text="row" kind="row" />
          {columns.map((column, place) => (
            <Heading
              key={column.name}
              text={column.title}
              at={!handling && place === cell}
              width={widths.of(column.name)}
              draw={(to) => widths.draw(column.name, to)}
              kind={numeric(column) ? "number" : ""}
              sorted={sort?.of(column.name)}
              press={sort && ((more) => sort.press(column.name, more))}
            />
          ))}
        </div>
        <div className="body" role="rowgroup" style={{ height: lines.getTotalSize() - LINE }}>
          {inView.map(({ index, start }) => {
            const line = index + 1;
            const record = recordAt(line);
            const next = line === source.next && !record;
            const free = !record && !next && source.next !== undefined;
            const fetchedPage = fetched[pages.indexOf(Math.floor(index / PAGE))];
            const state = next ? "next" : free ? "free" : record && record.row === mark ? "just" : "";
            const chosen = record && handling?.selected(record);
            return (
              // biome-ignore lint/a11y/useKeyWithClickEvents: the grid itself takes the keys
              <div
                key={line}
                id={handling && `line-${line}`}
                role="row"
                tabIndex={-1}
                aria-rowindex={line + 1}
                aria-selected={handling ? !!chosen : undefined}
                className={`line ${state} ${handling && line === active ? "active" : ""} ${chosen ? "chosen" : ""}`}
                style={{ gridTemplateColumns: tracks, transform: `translateY(${start}px)`, top: 0 }}
                onClick={(e) => {
                  if (!handling || !record) return;
                  frame.current?.focus();
                  if (e.ctrlKey || e.metaKey) handling.toggle(record, line);
                  else handling.goTo(line, e.shiftKey);
                }}
                onDoubleClick={() => record && handling?.open(record)}
              >
                <Cell text={record || next || free ? String(record?.row ?? line) : ""} kind="row" />
                {record &&
                  columns.map((column, place) => (
                    <Cell
                      key={column.name}
                      at={line === active && place === cell}
                      text={shown(record.values[column.name], column.type)}
                      kind={numeric(column) ? "number" : ""}
                      found={found.includes(column.name)}
                      inner={
                        editing && correcting && line === active && place === cell ? (
                          <Corrected
                            record={record}
                            column={column}
                            correcting={correcting}
                            ahead={ahead.current}
                            close={() => {
                              setEditing(false);
                              frame.current?.focus();
                            }}
                          />
                        ) : column.type === "picture" ? (
                          <Stored value={record.values[column.name]} type={column.type} />
                        ) : undefined
                      }
                    />
                  ))}
                {next && <Cell text="next free row" kind="span" />}
                {free && fetchedPage?.isSuccess && <Cell text="free" kind="span" />}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}

/** Takes a key in for a cell that is not there yet; whether it was one for a cell. */
function keyedAhead(e: KeyboardEvent, ahead: Ahead): boolean {
  if (e.key === "Enter") ahead.keep = true;
  else if (e.key.length === 1 && !e.ctrlKey && !e.metaKey && !e.altKey)
    ahead.text = (ahead.text ?? "") + e.key;
  else return ["a", "A", "Shift", "Control", "Alt", "Meta"].includes(e.key);
  return true;
}

/** The cell that is corrected. */
function Corrected(props: {
  record: StoredRecord;
  column: Column;
  correcting: Correcting;
  ahead: Ahead;
  close: () => void;
}) {
  const { record, column, correcting, ahead, close } = props;
  const field = correcting.field(column.name);
  if (!field) return null;
  return (
    <CellInPlace
      field={field}
      column={column}
      row={record.row}
      text={correcting.text(record, column.name)}
      list={correcting.list(record, column.name)}
      ahead={ahead}
      keep={(typed, answers) => correcting.keep(record, column.name, typed, answers)}
      close={close}
    />
  );
}

interface HeadingProps {
  text: string;
  kind: string;
  sorted?: string | undefined;
  press?: ((more: boolean) => void) | undefined;
  /** Whether the keys are at its column. */
  at?: boolean;
  width?: number;
  /** Draws its column that wide; as wide as what is in it without a width. */
  draw?: (width: number | undefined) => void;
}

function Heading({ text, kind, sorted, press, at, width = 0, draw }: HeadingProps) {
  const way = sorted?.includes("↑") ? "ascending" : sorted?.includes("↓") ? "descending" : undefined;
  return (
    <div role="columnheader" className={`${kind} ${at ? "at" : ""}`} title={text} aria-sort={way}>
      {press ? (
        <button type="button" tabIndex={-1} onClick={(e) => press(e.shiftKey)}>
          {text}
          {sorted && <em>{sorted}</em>}
        </button>
      ) : (
        text
      )}
      {draw && <Edge width={width} draw={draw} />}
    </div>
  );
}

/** The edge of a column: dragged it is drawn wider or narrower, pressed twice it fits what is in it. */
function Edge({ width, draw }: { width: number; draw: (width: number | undefined) => void }) {
  const from = useRef<number>(undefined);
  return (
    <span
      className="edge"
      aria-hidden="true"
      title="Drag for another width; press twice for one that fits"
      onPointerDown={(e) => {
        from.current = e.clientX - width;
        e.currentTarget.setPointerCapture(e.pointerId);
        e.preventDefault();
      }}
      onPointerMove={(e) => from.current !== undefined && draw(e.clientX - from.current)}
      onPointerUp={() => {
        from.current = undefined;
      }}
      onDoubleClick={() => draw(undefined)}
    />
  );
}

function Cell({
  text,
  kind,
  found,
  inner,
  at,
}: {
  text: string;
  kind: string;
  found?: boolean;
  inner?: ReactNode;
  /** Whether the keys are at it. */
  at?: boolean;
}) {
  return (
    <div
      role={kind === "row" ? "rowheader" : "gridcell"}
      className={`${kind === "span" ? "" : kind} ${at ? "at" : ""}`}
      style={kind === "span" ? { gridColumn: "2 / -1" } : undefined}
      title={text.length > 12 ? text : undefined}
    >
      {inner ?? (found ? <mark>{text}</mark> : text)}
    </div>
  );
}

const numeric = (column: Column) => FACTS[column.type].sort === "number";
