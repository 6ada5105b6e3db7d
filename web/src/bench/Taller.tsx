import { type PointerEvent, useEffect, useState } from "react";

const KEPT = "weft-strip-height";
const HEAD = 31;
const ROW = 27;
const LEAST = HEAD + 2 * ROW;
const USUAL = HEAD + 4 * ROW;

/** How high the rows below the form stand, in pixels, and how many stored rows that holds; it is remembered in this browser. */
export interface Strip {
  height: number;
  rows: number;
  set: (height: number) => void;
}

const within = (height: number) =>
  Math.round(Math.min(Math.max(LEAST, height), Math.max(LEAST, window.innerHeight * 0.6)));

export function useStrip(): Strip {
  const [height, setHeight] = useState(() => within(Number(localStorage.getItem(KEPT)) || USUAL));
  const set = (next: number) => {
    const fits = within(next);
    setHeight(fits);
    localStorage.setItem(KEPT, String(fits));
  };
  return { height, rows: Math.max(1, Math.floor((height - HEAD) / ROW) - 1), set };
}

/** The upper edge of the rows, by which they are made taller and lower: by dragging it, or with Alt+Page Up and Page Down. */
export function Taller({ strip }: { strip: Strip }) {
  useEffect(() => {
    const pressed = (e: KeyboardEvent) => {
      const by = { PageUp: ROW, PageDown: -ROW }[e.key];
      if (!by || !e.altKey || e.ctrlKey || e.metaKey) return;
      e.preventDefault();
      strip.set(strip.height + by);
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [strip]);
  const pull = (e: PointerEvent<HTMLElement>) => {
    e.preventDefault();
    const edge = e.currentTarget;
    edge.setPointerCapture(e.pointerId);
    const from = { y: e.clientY, height: strip.height };
    edge.onpointermove = (moved) => strip.set(from.height + from.y - moved.clientY);
    edge.onpointerup = () => {
      edge.onpointermove = null;
    };
  };
  return (
    <div
      role="separator"
      aria-orientation="horizontal"
      aria-label="Height of the rows"
      aria-valuenow={strip.height}
      aria-valuemin={LEAST}
      aria-valuemax={within(Number.MAX_SAFE_INTEGER)}
      tabIndex={0}
      className="taller"
      title="Drag, or Alt+Page Up and Alt+Page Down"
      onPointerDown={pull}
      onKeyDown={(e) => {
        const by = { ArrowUp: ROW, ArrowDown: -ROW }[e.key];
        if (!by) return;
        e.preventDefault();
        e.stopPropagation();
        strip.set(strip.height + by);
      }}
    />
  );
}
