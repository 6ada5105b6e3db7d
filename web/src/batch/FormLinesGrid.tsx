import { useQuery } from "@tanstack/react-query";
import { type FocusEvent, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { answered, api, type Finding, type Ruled } from "../api/client";
import { linesQuery } from "../api/queries";
import type { Entry, EntryState } from "../entry/entry";
import { blankLine, type FormLines } from "../entry/sheet";
import { counted } from "../model/counted";
import { seen } from "../model/items";
import type { At } from "./at";
import { BatchGrid } from "./BatchGrid";
import { cellKey, firstOf } from "./cellKeys";
import { copied, spread } from "./cells";
import type { GridModel } from "./model";

interface Props {
  door: string;
  item: FormLines;
  entry: Entry;
  state: EntryState;
  /** Whether lines may be keyed at all. */
  open: boolean;
}

const NOTHING_RULED: Ruled = {};

/** The lines of the record in the form: keyed, changed and taken out with it, and saved together with it. */
export function FormLinesGrid({ door, item, entry, state, open }: Props) {
  const [at, setAt] = useState<At>();
  const frame = useRef<HTMLDivElement>(null);
  const cell = cellOf(item.id);
  const made = useQuery(linesQuery(door, item.id, entry.version)).data;
  const fields = useMemo(
    () => item.items.filter(seen).map((field) => (open ? field : { ...field, use: "read-only" as const })),
    [item, open],
  );
  const ruled = made?.ruled ?? NOTHING_RULED;
  const lines = state.lines[item.id];
  const grid = useMemo(
    () => ({ lines: lines ?? [], read: state.readLines, stops: state.lineStops }),
    [lines, state.readLines, state.lineStops],
  );
  const model = useModel(door, item, entry);

  const move = (to: At) => flushSync(() => setAt(to));
  useLayoutEffect(() => {
    const input = at && document.getElementById(cell);
    input?.focus();
    if (input instanceof HTMLInputElement) input.select();
  }, [at, cell]);

  useEffect(() => {
    entry.cursors.set(item.id, (line, column) => {
      const place = fields.findIndex((field) => field.column === column);
      flushSync(() => setAt({ line, column: Math.max(0, place) }));
    });
    return () => {
      entry.cursors.delete(item.id);
    };
  }, [entry, item.id, fields]);

  const before = useRef("");
  const latest = useRef({ at, cells: { model, fields, ruled, move } });
  latest.current = { at, cells: { model, fields, ruled, move } };
  useEffect(() => {
    const box = frame.current;
    const pressed = (e: KeyboardEvent) => {
      const { at: where, cells } = latest.current;
      if (!where || (e.target as HTMLElement).id !== cell) return;
      if (!cellKey(e, where, before.current, cells)) return;
      e.preventDefault();
      e.stopPropagation();
    };
    const pasted = (e: ClipboardEvent) => {
      const { at: where, cells } = latest.current;
      if (!where || !e.clipboardData || (e.target as HTMLElement).id !== cell) return;
      const cut = copied(e.clipboardData);
      if (cut.length === 0 || (cut.length === 1 && (cut[0]?.length ?? 0) < 2)) return;
      e.preventDefault();
      e.stopPropagation();
      cells.model.paste(where.line, spread(cut, cells.fields, where.column));
    };
    // A cell that is drawn anew loses the keys without a word; whoever gets them then says that one is elsewhere.
    const elsewhere = (e: globalThis.FocusEvent) => {
      if (latest.current.at && !box?.contains(e.target as Node)) setAt(undefined);
    };
    document.addEventListener("focusin", elsewhere);
    box?.addEventListener("keydown", pressed, true);
    box?.addEventListener("paste", pasted, true);
    return () => {
      document.removeEventListener("focusin", elsewhere);
      box?.removeEventListener("keydown", pressed, true);
      box?.removeEventListener("paste", pasted, true);
    };
  }, [cell]);

  const focused = (e: FocusEvent) => {
    if (e.target.id === cell && at)
      before.current = lines?.[at.line]?.typed[fields[at.column]?.column ?? ""] ?? "";
    // Whoever comes by Tab begins in the first cell.
    if (e.target.getAttribute("role") === "grid" && lines) {
      const first = firstOf({ model, fields, ruled, move }, 0);
      if (first) move(first);
    }
  };
  const left = (e: FocusEvent) => {
    if (e.relatedTarget && !e.currentTarget.contains(e.relatedTarget)) setAt(undefined);
  };
  const kept = (lines ?? []).filter((line) => !line.gone && !blankLine(line)).length;
  const whole: Finding[] = [
    ...(state.lineStops.get(0) ?? []).filter((finding) => finding.lines === item.id),
    ...(state.stops.length > 0 || state.record ? (state.assessment?.findings ?? []) : []).filter(
      (finding) => finding.lines === item.id && !finding.line,
    ),
  ].slice(0, 1);
  return (
    <div
      className="f lines-in-form"
      style={{ gridColumn: "1 / -1" }}
      role="group"
      aria-label={item.label}
      ref={frame}
      onFocus={focused}
      onBlur={left}
      data-lines={item.id}
    >
      <div className="lines-head">
        <h3>{item.label}</h3>
        <span className="text-soft">{lines ? counted(kept, "line") : "…"}</span>
        <span className="flex-1" />
        {open && at && (
          <span className="text-soft">
            <kbd>Enter</kbd> next line · <kbd>Ctrl Del</kbd> take out · <kbd>Alt ↑</kbd> as above
          </span>
        )}
      </div>
      <BatchGrid
        all={false}
        next={undefined}
        fields={fields}
        columns={made?.columns ?? []}
        ruled={ruled}
        batch={model}
        state={grid}
        at={at}
        move={move}
        cell={cell}
        name={item.label}
        tab={at ? -1 : 0}
      />
      {whole.map((finding) => (
        <p key={finding.code} className={`finding say ${finding.severity}`}>
          {finding.message}
        </p>
      ))}
    </div>
  );
}

/** The id of the cell that one is in. */
export const cellOf = (lines: string) => `cell-${lines}`;

function useModel(door: string, item: FormLines, entry: Entry): GridModel {
  return useMemo(() => {
    const { id } = item;
    const lines = () => entry.snapshot().lines[id] ?? [];
    return {
      grid: () => {
        const { readLines, lineStops } = entry.snapshot();
        return { lines: lines(), read: readLines, stops: lineStops };
      },
      type: (at, column, text) => entry.typeLine(id, at, column, text),
      list: (at, column, typed) =>
        answered(
          api.POST("/api/doors/{door}/lines/{lines}/choices/{column}", {
            params: { path: { door, lines: id, column } },
            body: {
              typed,
              draft: {
                values: at === undefined ? {} : (lines()[at]?.typed ?? {}),
                version: entry.version,
              },
            },
          }),
        ),
      asAbove: (at, columns) => {
        const above = lines()[at - 1];
        if (above) for (const column of columns) entry.typeLine(id, at, column, above.typed[column] ?? "");
      },
      takeOut: (at) => entry.takeOutLine(id, at),
      insert: (at) => entry.insertLine(id, at),
      paste: (at, cells) => entry.pasteLines(id, at, cells.lines),
    };
  }, [door, item, entry]);
}
