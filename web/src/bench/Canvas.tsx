import { useDraggable, useDroppable } from "@dnd-kit/core";
import {
  type CSSProperties,
  memo,
  type PointerEvent,
  type ReactElement,
  useCallback,
  useMemo,
  useRef,
} from "react";
import type { FormItem, Table } from "../api/client";
import { standing } from "../entry/derived";
import { ruled, shownFindings } from "../entry/entry";
import { FormView } from "../form/FormView";
import type { EntryView, Presses } from "../form/view";
import { focusable, widthOf } from "../model/items";
import { useSubscribed } from "../model/useSubscribed";
import { change } from "./edits";
import { nameOf } from "./OutlineLine";
import { light } from "./threads";
import type { BenchDoings } from "./useBench";

/** The form itself, alive: one types into it by the working copy's rules, and nothing is written. */
export const Canvas = memo(function Canvas({ bench, table }: { bench: BenchDoings; table: Table }) {
  const { form, entry, ids, selected, threads, select, edit, say, ruling } = bench;
  const typed = useSubscribed(entry);
  const type = useCallback((column: string, text: string) => entry.type(column, text), [entry]);
  const leave = useCallback((column: string) => entry.leave(column), [entry]);
  const view: EntryView = {
    typed: standing(form, table, typed),
    was: {},
    values: typed.assessment?.values ?? NOTHING,
    readings: typed.assessment?.readings ?? NO_TEXTS,
    findings: shownFindings(typed),
    ...ruled(typed, entry),
    ruled: bench.state?.ruled,
    type,
    leave,
  };
  const presses: Presses = useMemo(
    () => ({
      can: () => true,
      press: (button) => {
        select(button.id);
        if (button.action === "clear") entry.turn();
        say(
          `Nothing is written here. At the Desk, ${button.label} would ${button.action.replace("-", " ")}.`,
        );
      },
    }),
    [entry, say, select],
  );
  const resize = useCallback((id: string, patch: object) => edit(change([id], { ...patch })), [edit]);
  const numbers = useMemo(() => new Map(ids.map((id, at) => [id, at + 1])), [ids]);
  const around = (item: FormItem, inner: ReactElement) => (
    <Piece
      key={item.id}
      item={item}
      number={numbers.get(item.id) ?? 0}
      selected={selected.includes(item.id)}
      alone={selected.length === 1 && selected[0] === item.id}
      ruled={item.kind === "field" && ruling.includes(item.column)}
      thread={item.kind === "field" ? threads.get(item.column) : undefined}
      select={select}
      resize={resize}
    >
      {inner}
    </Piece>
  );
  const enter = (e: React.KeyboardEvent) => {
    const list = (e.target as HTMLElement).getAttribute("aria-expanded") === "true";
    if (e.key === "Escape" && !list) entry.turn();
    if (e.key !== "Enter" || e.shiftKey || list || (e.target as HTMLElement).tagName !== "INPUT") return;
    e.preventDefault();
    const stops = typed.assessment?.findings.filter((finding) => finding.severity === "stop") ?? [];
    for (const field of focusable(form)) entry.leave(field.column);
    say(
      stops[0]
        ? stops[0].message
        : `Nothing is written here. At the Desk this would be saved in row ${table.nextRow}.`,
      stops.length > 0,
    );
  };
  return (
    <div className="canvas" onKeyDown={enter}>
      {ids.length === 0 ? (
        <div className="box empty-form">
          <p>
            The form is empty. Type a label at the left, such as <b>Taken on, date, required</b>, and press
            Enter: that makes the field and its column.
          </p>
        </div>
      ) : (
        <FormView form={form} columns={table.columns} entry={view} presses={presses} around={around} />
      )}
      <p className={`said ${bench.said.stop ? "stop" : ""}`} role="status">
        {bench.said.text}
      </p>
    </div>
  );
});

const NOTHING = {};
const NO_TEXTS = {};

interface PieceProps {
  item: FormItem;
  number: number;
  selected: boolean;
  /** Whether it alone is selected, and so has handles. */
  alone: boolean;
  /** Whether the rule that is open speaks of it. */
  ruled: boolean;
  thread: number | undefined;
  select: BenchDoings["select"];
  resize: (id: string, patch: object) => void;
  children: ReactElement;
}

/** An item on the form as a builder handles it: numbered, selected, dragged, and made wider and higher. */
const Piece = memo(function Piece(props: PieceProps) {
  const { item, number, selected, alone, ruled, thread, select, resize, children } = props;
  const drag = useDraggable({ id: `item ${item.id}`, data: { item: item.id } });
  const drop = useDroppable({ id: `onto ${item.id}`, data: { item: item.id } });
  const box = useRef<HTMLDivElement | null>(null);
  const { setNodeRef: holdDrag } = drag;
  const { setNodeRef: holdDrop } = drop;
  const hold = useCallback(
    (element: HTMLDivElement | null) => {
      box.current = element;
      holdDrag(element);
      holdDrop(element);
    },
    [holdDrag, holdDrop],
  );
  const hidden = item.kind === "field" && item.use === "hidden";
  const style = {
    "--w": widthOf(item),
    "--n": Math.min(12, widthOf(item) * 2),
    transform: drag.transform ? `translate(${drag.transform.x}px, ${drag.transform.y}px)` : undefined,
  } as CSSProperties;

  /** A handle sets width in tracks and height in lines as far as it is dragged. */
  const pull = (e: PointerEvent<HTMLElement>, way: "width" | "height") => {
    e.preventDefault();
    e.stopPropagation();
    const handle = e.currentTarget;
    handle.setPointerCapture(e.pointerId);
    const track = (box.current?.parentElement?.clientWidth ?? 1200) / 12;
    const start = { x: e.clientX, y: e.clientY };
    const height = "height" in item ? (item.height ?? 1) : 1;
    let last = way === "width" ? widthOf(item) : height;
    handle.onpointermove = (moved) => {
      const by = way === "width" ? (moved.clientX - start.x) / track : (moved.clientY - start.y) / 22;
      const value = Math.max(1, Math.min(12, Math.round((way === "width" ? widthOf(item) : height) + by)));
      if (value !== last) resize(item.id, { [way]: value });
      last = value;
    };
    handle.onpointerup = () => {
      handle.onpointermove = null;
    };
  };

  return (
    <div
      ref={hold}
      className={`piece ${selected ? "selected" : ""} ${drag.isDragging ? "dragged" : ""} ${drop.isOver && !drag.isDragging ? "target" : ""} ${hidden ? "unseen" : ""} ${ruled ? "ruled" : ""} ${thread === undefined ? "" : `thread-${thread}`}`}
      style={style}
      data-piece={item.id}
      onPointerDown={(e) => select(item.id, e.shiftKey ? "range" : e.ctrlKey || e.metaKey ? "more" : "only")}
      onFocus={() => !selected && select(item.id)}
      onMouseEnter={() => item.kind === "field" && light(item.id, item.column, true)}
      onMouseLeave={() => item.kind === "field" && light(item.id, item.column, false)}
    >
      <span
        className="grip"
        {...drag.listeners}
        title="Drag to move (Alt+arrow keys move it too)"
        aria-hidden="true"
      >
        {hidden ? "hidden " : ""}
        {number}
      </span>
      {children}
      {alone && (
        <>
          <button
            type="button"
            tabIndex={-1}
            className="handle wide"
            aria-label={`Width of ${nameOf(item)}`}
            onPointerDown={(e) => pull(e, "width")}
          />
          {"height" in item && (
            <button
              type="button"
              tabIndex={-1}
              className="handle high"
              aria-label={`Height of ${nameOf(item)}`}
              onPointerDown={(e) => pull(e, "height")}
            />
          )}
        </>
      )}
    </div>
  );
}, unchanged);

type Props = Record<string, unknown>;

const same = (one: Props, other: Props) =>
  Object.keys({ ...one, ...other }).every((name) => one[name] === other[name]);

/** Whether neither the handling of an item nor what is drawn in it changed. */
function unchanged(
  { children: before, ...one }: PieceProps,
  { children: after, ...other }: PieceProps,
): boolean {
  return (
    same(one as unknown as Props, other as unknown as Props) &&
    before.type === after.type &&
    same(before.props as Props, after.props as Props)
  );
}
