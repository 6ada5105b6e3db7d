import { useEffect, useRef, useState } from "react";
import type { Table } from "../api/client";
import type { Over } from "./BenchOf";
import { Canvas } from "./Canvas";
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
 * outline's, so that no key in the outline waits for them.
 */
export function Work({ bench, table, show }: Props) {
  const drawn = useNextFrame(bench);
  const work = useRef<HTMLDivElement>(null);
  return (
    <div className="work" ref={work}>
      <Canvas bench={drawn} table={table} />
      <RowsStrip bench={drawn} table={table} show={show} />
      <Threads bench={drawn} within={work} />
    </div>
  );
}

/** The value as it was, until what depends on it elsewhere is painted. */
function useNextFrame<T>(value: T): T {
  const [drawn, setDrawn] = useState(value);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const frame = requestAnimationFrame(() => {
      timer = setTimeout(() => setDrawn(value));
    });
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(timer);
    };
  }, [value]);
  return drawn;
}
