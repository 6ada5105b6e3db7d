import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { PAGE } from "../rows/pages";

/** Keeps what is shown of a table current while its records are saved, changed and deleted, by whomever. */
export function useLiveTable(table: string | undefined) {
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
    };
    const soon = () => {
      timer ??= setTimeout(look, 60);
    };
    const heard = (e: MessageEvent) => {
      touched.add(Math.floor((JSON.parse(e.data).row - 1) / PAGE));
      soon();
    };
    for (const kind of ["saved", "changed", "deleted"]) source.addEventListener(kind, heard);
    source.addEventListener("ready", () => {
      queries.invalidateQueries({ queryKey: ["rows", table] });
      soon();
    });
    return () => {
      source.close();
      clearTimeout(timer);
    };
  }, [table, queries]);
}
