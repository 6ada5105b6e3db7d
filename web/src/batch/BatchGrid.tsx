import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, useEffect, useRef } from "react";
import type { Column, Finding, FormField, Ruled } from "../api/client";
import { FieldInput } from "../form/FieldInput";
import { useShown } from "../model/way";
import { type At, takes } from "./at";
import { findingsOf, type GridLine, type GridModel, type GridState, type LineRead } from "./model";

const LINE = 34;
const UNDER = 26;

interface Props {
  /** Whether rows are told at all, and the row that the first line would get; else lines are counted. */
  all: boolean;
  next: number | undefined;
  fields: FormField[];
  columns: Column[];
  ruled: Ruled;
  batch: GridModel;
  state: GridState;
  at: At | undefined;
  move: (to: At) => void;
  /** The id of the cell that one is in. */
  cell?: string;
  /** What it is called. */
  name?: string;
  /** Whether Tab comes to it, while one is in none of its cells. */
  tab?: number;
}

/** The lines under their columns, each with what is found under it. Only those in view are drawn. */
export function BatchGrid(props: Props) {
  const {
    all,
    next,
    fields,
    columns,
    ruled,
    batch,
    state,
    at,
    move,
    cell = "cell",
    name = "Lines",
    tab,
  } = props;
  const frame = useRef<HTMLDivElement>(null);
  const under = (index: number): number => {
    const line = state.lines[index];
    return line ? told(state, line, at?.line === index ? fields[at.column]?.column : undefined).length : 0;
  };
  const lines = useVirtualizer({
    count: state.lines.length,
    getScrollElement: () => frame.current,
    estimateSize: (index) => LINE + UNDER * under(index),
    getItemKey: (index) => state.lines[index]?.id ?? index,
    overscan: 8,
    paddingStart: LINE,
    scrollPaddingStart: LINE,
    scrollPaddingEnd: UNDER,
  });
  // What is found under lines changes their heights.
  // biome-ignore lint/correctness/useExhaustiveDependencies: measured again when these change
  useEffect(() => {
    lines.measure();
    // What hangs open at the cell goes where the cell goes.
    window.dispatchEvent(new Event("resize"));
  }, [state.read, state.stops, state.lines, at?.line, at?.column, lines]);
  useEffect(() => {
    if (at) lines.scrollToIndex(at.line, { align: "auto" });
  }, [at, lines]);
  const called = (line: GridLine, index: number): string => {
    if (!all) return String(index + 1);
    const row = state.read.get(line.id)?.row ?? (state.lines.length === 1 ? next : undefined);
    return row ? String(row) : "";
  };
  const tracks = `74px ${fields.map(width).join(" ")}`;
  return (
    <div
      className="form many box"
      ref={frame}
      role="grid"
      aria-label={name}
      aria-rowcount={state.lines.length + 1}
      tabIndex={tab}
    >
      <div role="presentation" style={{ height: lines.getTotalSize() }}>
        <div role="row" className="many-one many-head" style={{ gridTemplateColumns: tracks }}>
          <div role="columnheader" className="many-row">
            {all ? "row" : "line"}
          </div>
          {fields.map((field) => (
            <div key={field.id} role="columnheader" title={field.label}>
              {field.label}
              {(field.required || columns.find(({ name }) => name === field.column)?.required) && (
                <i aria-hidden="true"> *</i>
              )}
            </div>
          ))}
        </div>
        {lines.getVirtualItems().map(({ index, start }) => {
          const line = state.lines[index];
          if (!line) return null;
          const active = at?.line === index ? at.column : undefined;
          return (
            <LineView
              key={line.id}
              line={line}
              number={index + 1}
              called={called(line, index)}
              top={start}
              tracks={tracks}
              fields={fields}
              columns={columns}
              ruled={ruled}
              batch={batch}
              cell={cell}
              read={state.read.get(line.id)}
              findings={findingsOf(state, line)}
              stopped={state.stops.has(line.id)}
              active={active}
              move={move}
            />
          );
        })}
      </div>
    </div>
  );
}

/** What is said under a line: of a cell that is still typed in, nothing but what stopped a save. */
function told(state: GridState, line: GridLine, typing: string | undefined): Finding[] {
  const findings = findingsOf(state, line);
  if (typing === undefined || state.stops.has(line.id)) return findings;
  return findings.filter(({ field }) => field !== typing && line.typed[field]?.trim());
}

interface LineProps {
  line: GridLine;
  number: number;
  /** Its row, or where none is told its number. */
  called: string;
  top: number;
  tracks: string;
  fields: FormField[];
  columns: Column[];
  ruled: Ruled;
  batch: GridModel;
  cell: string;
  read: LineRead | undefined;
  findings: Finding[];
  stopped: boolean;
  /** The column one is in, by its place, when one is in this line. */
  active: number | undefined;
  move: (to: At) => void;
}

/** One line; drawn again only when something of its own changed. */
const LineView = memo(
  function LineView(props: LineProps) {
    const { line, number, called, top, tracks, fields, columns, ruled, batch, cell, read, active, move } =
      props;
    const shown = useShown();
    const typing = active === undefined ? undefined : fields[active]?.column;
    const findings =
      typing === undefined || props.stopped
        ? props.findings
        : props.findings.filter(({ field }) => field !== typing && line.typed[field]?.trim());
    const severity = (column: string) => findings.find(({ field }) => field === column)?.severity;
    return (
      <div className="many-group" style={{ transform: `translateY(${top}px)` }} role="presentation">
        <div
          role="row"
          aria-rowindex={number + 1}
          className={`many-one ${active === undefined ? "" : "active"} ${line.gone ? "gone" : ""}`}
          style={{ gridTemplateColumns: tracks }}
        >
          <div role="rowheader" className={`many-row ${read?.row ? "" : "none"}`} title={`Line ${number}`}>
            {called}
          </div>
          {fields.map((field, place) => {
            const { column } = field;
            const state = read?.fields[column];
            const open = !line.gone && takes(field, ruled, state);
            const text = line.typed[column] ?? "";
            const value = read?.values[column];
            const said = severity(column);
            if (place === active && open)
              return (
                <div key={field.id} role="gridcell" className={`many-cell on ${said ?? ""}`}>
                  <FieldInput
                    id={cell}
                    text={text}
                    type={(typed) => batch.type(number - 1, column, typed)}
                    value={value}
                    field={{ ...field, label: `${field.label}, line ${number}` }}
                    choices={columns.find(({ name }) => name === column)?.choices ?? []}
                    list={
                      ruled[column]?.listed ? (of, typed) => batch.list(number - 1, of, typed) : undefined
                    }
                    aria={{
                      "aria-describedby": said ? `said-${line.id}` : undefined,
                      "aria-invalid": said === "stop" || undefined,
                      "aria-required": undefined,
                      readOnly: undefined,
                      tabIndex: undefined,
                      placeholder: undefined,
                      "aria-label": `${field.label}, line ${number}`,
                    }}
                  />
                </div>
              );
            const stands = said === "stop" || !read || value === undefined || value === null ? text : "";
            return (
              <div
                key={field.id}
                role="gridcell"
                tabIndex={-1}
                className={`many-cell ${said ?? ""} ${open ? "" : "shut"} ${numeric(field) ? "digits" : ""} ${text.trim() ? "" : "given"}`}
                title={read?.readings[column]}
                onMouseDown={(e) => {
                  e.preventDefault();
                  if (open) move({ line: number - 1, column: place });
                }}
              >
                {stands || shown(value, columns.find(({ name }) => name === column)?.type)}
              </div>
            );
          })}
        </div>
        {findings.map((finding) => (
          <p
            key={finding.field + finding.code + finding.rule}
            id={`said-${line.id}`}
            className={`many-under say ${finding.severity}`}
          >
            {finding.message}
          </p>
        ))}
      </div>
    );
  },
  (before, now) =>
    before.line === now.line &&
    before.number === now.number &&
    before.called === now.called &&
    before.top === now.top &&
    before.tracks === now.tracks &&
    before.read === now.read &&
    before.stopped === now.stopped &&
    before.findings === now.findings &&
    before.active === now.active,
);

const numeric = (field: FormField) => field.widget === "number";

function width(field: FormField): string {
  const least = Math.max(84, Math.min(220, field.label.length * 8 + 28));
  return `minmax(${least}px, ${Math.max(1, field.width)}fr)`;
}
