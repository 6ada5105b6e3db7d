import { useDraggable } from "@dnd-kit/core";
import { memo, type RefObject, useCallback, useEffect, useLayoutEffect, useState } from "react";
import { fieldsOf } from "../model/items";
import type { BenchDoings } from "./useBench";

interface Thread {
  id: string;
  column: string;
  kind: number;
  from: { x: number; y: number };
  to: { x: number; y: number };
}

interface Props {
  bench: BenchDoings;
  /** What the threads are drawn over: the form and the rows. */
  within: RefObject<HTMLDivElement | null>;
}

/** The threads from the fields to their columns, drawn over the form and the rows, and following both as they scroll. */
export const Threads = memo(function Threads({ bench, within }: Props) {
  const { form, threads, selected, select, allThreads, ruling } = bench;
  const [drawn, setDrawn] = useState<Thread[]>([]);

  const draw = useCallback(() => {
    const pane = within.current;
    if (!pane) return;
    const origin = pane.getBoundingClientRect();
    const canvas = pane.querySelector(".canvas")?.getBoundingClientRect();
    // Each kind is looked for once: a form may have hundreds of fields.
    const heads = new Map(
      [...pane.querySelectorAll<HTMLElement>("[data-column]")].map((head) => [head.dataset.column, head]),
    );
    const boxes = new Map(
      [...pane.querySelectorAll<HTMLElement>("[data-piece]")].map((piece) => [piece.dataset.piece, piece]),
    );
    const next = fieldsOf(form).flatMap((field) => {
      const piece = boxes.get(field.id);
      const kind = threads.get(field.column);
      const box = piece?.querySelector(".in")?.getBoundingClientRect();
      if (!box || !canvas || kind === undefined) return [];
      if (box.bottom < canvas.top || box.top > canvas.bottom - 4) return [];
      const head = heads.get(field.column)?.getBoundingClientRect();
      if (!head) return [];
      return [
        {
          id: field.id,
          column: field.column,
          kind,
          from: { x: box.left - origin.left + 14, y: Math.min(box.bottom, canvas.bottom) - origin.top },
          to: { x: Math.max(6, head.left - origin.left + head.width / 2), y: canvas.bottom - origin.top },
        },
      ];
    });
    setDrawn((before) => (JSON.stringify(before) === JSON.stringify(next) ? before : next));
  }, [form, threads, within]);

  useLayoutEffect(draw);
  useEffect(() => {
    const pane = within.current;
    if (!pane) return;
    const size = new ResizeObserver(draw);
    size.observe(pane);
    const form = pane.querySelector(".form");
    if (form) size.observe(form);
    pane.addEventListener("scroll", draw, true);
    return () => {
      size.disconnect();
      pane.removeEventListener("scroll", draw, true);
    };
  }, [draw, within]);

  return (
    <>
      <svg className="threads" aria-hidden="true">
        {drawn.map((thread) => (
          <Path
            key={thread.id}
            thread={thread}
            on={selected.includes(thread.id) || ruling.includes(thread.column)}
            whole={allThreads}
          />
        ))}
      </svg>
      {drawn
        .filter((thread) => selected.length === 1 && selected[0] === thread.id)
        .map((thread) => (
          <End key={thread.id} thread={thread} press={() => select(thread.id)} />
        ))}
    </>
  );
});

/** Both ends of a thread are always seen; the whole of it while it is wanted. */
function Path({
  thread: { id, kind, from, to },
  on,
  whole,
}: {
  thread: Thread;
  on: boolean;
  whole: boolean;
}) {
  const reach = Math.max(30, (to.y - from.y) * 0.45);
  return (
    <g className={`thread-${kind}`}>
      <path className="end" d={`M${from.x},${from.y} v${END} M${to.x},${to.y} v${-END}`} />
      <path
        data-thread={id}
        className={`whole ${on ? "on" : ""} ${whole ? "seen" : ""}`}
        d={`M${from.x},${from.y} C${from.x},${from.y + reach} ${to.x},${to.y - reach} ${to.x},${to.y}`}
      />
    </g>
  );
}

const END = 9;

/** The end of the selected field's thread, which is dragged to another column; the settings of the field do it by key. */
function End({ thread, press }: { thread: Thread; press: () => void }) {
  const { setNodeRef, listeners, transform } = useDraggable({
    id: `thread ${thread.id}`,
    data: { thread: thread.id },
  });
  return (
    <button
      ref={setNodeRef}
      type="button"
      tabIndex={-1}
      className={`thread-end thread-${thread.kind}`}
      title="Drag to another column"
      aria-label={`End of the thread to ${thread.column}`}
      style={{
        left: thread.to.x - 7 + (transform?.x ?? 0),
        top: thread.to.y - 7 + (transform?.y ?? 0),
      }}
      onClick={press}
      {...listeners}
    />
  );
}
