import { useQueries } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef } from "react";
import type { Column, Table } from "../api/client";
import { PAGE, rowsQuery } from "./pages";
import { shown } from "./shown";

const LINE = 32;

interface Props {
  table: Table;
  columns: Column[];
  /** A row to keep in view and mark, such as the one just saved. */
  mark?: number;
}

/**
 * A table's rows in the order of their numbers. A line stands for a row number, so any place in a table of any size is
 * found at once, and only the lines in view are fetched and drawn.
 */
export function RowsGrid({ table, columns, mark }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const count = Math.max(table.lastRow, table.nextRow);
  const lines = useVirtualizer({
    count,
    getScrollElement: () => frame.current,
    estimateSize: () => LINE,
    overscan: 10,
    initialOffset: 0,
    paddingStart: LINE,
    scrollPaddingStart: LINE,
  });
  const inView = lines.getVirtualItems();
  const pages = [...new Set(inView.map((line) => Math.floor(line.index / PAGE)))];
  const fetched = useQueries({ queries: pages.map((page) => rowsQuery(table.name, page)) });
  const pageAt = (index: number) => fetched[pages.indexOf(Math.floor(index / PAGE))];

  useEffect(() => {
    if (mark) lines.scrollToIndex(mark, { align: "end" });
  }, [mark, lines]);

  const tracks = `${Math.max(56, String(count).length * 9 + 24)}px ${columns.map(width).join(" ")}`;
  return (
    <section className="rows" ref={frame} aria-label={`Rows of ${table.title}`} tabIndex={0}>
      <div role="table" aria-label={table.title} aria-rowcount={count + 1}>
        <div role="row" className="line head" style={{ gridTemplateColumns: tracks }}>
          <Heading text="row" kind="row" />
          {columns.map((column) => (
            <Heading key={column.name} text={column.title ?? ""} kind={numeric(column) ? "number" : ""} />
          ))}
        </div>
        <div className="body" role="rowgroup" style={{ height: lines.getTotalSize() - LINE }}>
          {inView.map((line) => {
            const row = line.index + 1;
            const page = pageAt(line.index);
            const record = page?.data?.get(row);
            const next = row === table.nextRow && !record;
            const state = next ? "next" : record ? (row === mark ? "just" : "") : "free";
            return (
              <div
                key={row}
                role="row"
                aria-rowindex={row + 1}
                className={`line ${state}`}
                style={{ gridTemplateColumns: tracks, transform: `translateY(${line.start}px)`, top: 0 }}
              >
                <Cell text={String(row)} kind="row" />
                {record &&
                  columns.map((column) => (
                    <Cell
                      key={column.name}
                      text={shown(record.values[column.name ?? ""], column.type)}
                      kind={numeric(column) ? "number" : ""}
                    />
                  ))}
                {next && <Cell text="next free row" kind="span" />}
                {!record && !next && page?.isSuccess && <Cell text="free" kind="span" />}
              </div>
            );
          })}
        </div>
      </div>
    </section>
  );
}

function Heading({ text, kind }: { text: string; kind: string }) {
  return (
    <div role="columnheader" className={kind} title={text}>
      {text}
    </div>
  );
}

function Cell({ text, kind }: { text: string; kind: string }) {
  return (
    <div
      role={kind === "row" ? "rowheader" : "cell"}
      className={kind === "span" ? "" : kind}
      style={kind === "span" ? { gridColumn: "2 / -1" } : undefined}
      title={text.length > 12 ? text : undefined}
    >
      {text}
    </div>
  );
}

function numeric(column: Column) {
  return column.type === "whole" || column.type === "decimal";
}

function width(column: Column): string {
  const title = (column.title ?? "").length * 8 + 24;
  const value: Record<string, number> = {
    longtext: 320,
    datetime: 170,
    date: 110,
    time: 84,
    yesno: 70,
    whole: 90,
  };
  return `${Math.max(Math.min(title, 220), value[column.type ?? ""] ?? 150)}px`;
}
