import { useEffect, useRef, useState } from "react";
import type { Table } from "../api/client";
import { Canvas } from "./Canvas";
import type { Over } from "./over";
import { RowsStrip } from "./RowsStrip";
import { Threads } from "./Threads";
import type { BenchDoings } from "./useBench";

interface Props {
  bench: BenchDoings;
  table: Table;
  show: (over: Over) => void;
}

/**
 * The form, alive, and the rows it writes to, with the threads between them. They are drawn in the frame after the
 * outline's, or when fast hands pause, so that no key in the outline waits for them.
 */
export function Work({ bench, table, show }: Props) {
  const drawn = useWhenFree(bench);
  const work = useRef<HTMLDivElement>(null);
  return (
    <div className="work" ref={work}>
      <Canvas bench={drawn} table={table} />
      <RowsStrip bench={drawn} table={table} show={show} />
      <Threads bench={drawn} within={work} />
    </div>
  );
}

/** Milliseconds: changes that come closer together than this are of one run of keys, which is drawn when it pauses. */
const RUN = 150;
const PAUSE = 100;

/** The value as it was, until what depends on it elsewhere is painted, or the run of keys that changes it pauses. */
function useWhenFree<T>(value: T): T {
  const [drawn, setDrawn] = useState(value);
  const changed = useRef(0);
  useEffect(() => {
    const now = performance.now();
    const running = now - changed.current < RUN;
    changed.current = now;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const frame = requestAnimationFrame(() => {
      timer = setTimeout(() => setDrawn(value), running ? PAUSE : 0);
    });
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(timer);
    };
  }, [value]);
  return drawn;
}
