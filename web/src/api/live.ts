import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { PAGE } from "../rows/source";

/**
 * Keeps what is shown of a table current while its records are saved, changed and deleted, by whomever, and tells `heard`
 * soon after something happened. `redefined` is told when tables or forms were changed.
 */
export function useLiveTable(table: string | undefined, heard?: () => void, redefined?: () => void) {
  const hearer = useRef(heard);
  hearer.current = heard;
  const remade = useRef(redefined);
  remade.current = redefined;
  const queries = useQueryClient();
  useEffect(() => {
    if (!table) return;
    const source = new EventSource(`/api/tables/${table}/events`);
    const touched = new Set<number>();
    let timer: ReturnType<typeof setTimeout> | undefined;
    // Many saves in a moment, as from an import, make one look.
    const look = () => {
      timer = undefined;
      for (const page of touched) queries.invalidateQueries({ queryKey: ["rows", table, page] });
      touched.clear();
      queries.invalidateQueries({ queryKey: ["table", table] });
      queries.invalidateQueries({ queryKey: ["next-row"] });
      queries.invalidateQueries({ queryKey: ["tables"] });
      queries.invalidateQueries({ queryKey: ["view", table] });
      queries.invalidateQueries({ queryKey: ["removed", table] });
      hearer.current?.();
    };
    const soon = () => {
      timer ??= setTimeout(look, 200);
    };
    const touch = (e: MessageEvent) => {
      touched.add(Math.floor((JSON.parse(e.data).row - 1) / PAGE));
      soon();
    };
    for (const kind of ["saved", "changed", "deleted"]) source.addEventListener(kind, touch);
    source.addEventListener("definitions", () => {
      queries.invalidateQueries({ queryKey: ["forms"] });
      queries.invalidateQueries({ queryKey: ["tables"] });
      queries.invalidateQueries({ queryKey: ["table", table] });
      queries.invalidateQueries({ queryKey: ["bench"] });
      remade.current?.();
    });
    source.addEventListener("ready", () => {
      queries.invalidateQueries({ queryKey: ["rows", table] });
      // What happened before the line was up was not heard.
      remade.current?.();
      soon();
    });
    return () => {
      source.close();
      clearTimeout(timer);
    };
  }, [table, queries]);
}
