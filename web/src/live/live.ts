import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { asTried } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { PAGE } from "../rows/source";

const AGAIN_AFTER = 3_000;

/** What a page wants to be told, beside what it shows being asked for anew. */
interface Told {
  /** Soon after records were saved, changed or deleted. */
  heard?: () => unknown;
  /** The table was changed, or another one that rules may look into; or what happened before is not known. */
  redefined?: () => unknown;
  /** The working copy of a form of the table was changed. */
  redrafted?: (form: string) => unknown;
  /** A form of the table was published, or put out of use. */
  published?: (form: string) => unknown;
}

/** Keeps what is shown of a table current while it, its forms and its records are changed, by whomever; heard through a door where one is named. It owns the line to the server. */
export function useLiveTable(table: string | undefined, told: Told = {}, door?: string) {
  const hearer = useRef(told);
  hearer.current = told;
  const queries = useQueryClient();
  const [attempt, setTry] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: each try is another line
  useEffect(() => {
    if (!table) return;
    const source = new EventSource(
      door ? asTried(`/api/doors/${door}/events`) : `/api/tables/${table}/events`,
    );
    // The browser tries again by itself unless it was refused, as when one is signed out.
    let again: ReturnType<typeof setTimeout> | undefined;
    source.onerror = () => {
      if (source.readyState === EventSource.CLOSED)
        again = setTimeout(() => setTry((n) => n + 1), AGAIN_AFTER);
    };
    const touched = new Set<number>();
    let timer: ReturnType<typeof setTimeout> | undefined;
    // Many saves in a moment, as from an import, make one look.
    const look = () => {
      timer = undefined;
      for (const page of touched) queries.invalidateQueries({ queryKey: queryKeyOf("rows", table, page) });
      touched.clear();
      queries.invalidateQueries({ queryKey: queryKeyOf("table", table) });
      queries.invalidateQueries({ queryKey: queryKeyOf("seen-table") });
      queries.invalidateQueries({ queryKey: queryKeyOf("next-row") });
      queries.invalidateQueries({ queryKey: queryKeyOf("tables") });
      queries.invalidateQueries({ queryKey: queryKeyOf("view", table) });
      queries.invalidateQueries({ queryKey: queryKeyOf("removed", table) });
      hearer.current.heard?.();
    };
    const soon = () => {
      timer ??= setTimeout(look, 200);
    };
    const touch = (e: MessageEvent) => {
      touched.add(Math.floor((JSON.parse(e.data).row - 1) / PAGE));
      soon();
    };
    for (const kind of ["saved", "changed", "deleted"]) source.addEventListener(kind, touch);
    const formOf = (e: MessageEvent): string => JSON.parse(e.data).form;
    source.addEventListener("draft", (e) => {
      const form = formOf(e);
      queries.invalidateQueries({ queryKey: queryKeyOf("bench", form) });
      hearer.current.redrafted?.(form);
    });
    source.addEventListener("published", (e) => {
      const form = formOf(e);
      queries.invalidateQueries({ queryKey: queryKeyOf("forms") });
      queries.invalidateQueries({ queryKey: queryKeyOf("bench", form) });
      hearer.current.published?.(form);
    });
    source.addEventListener("table", () => {
      queries.invalidateQueries({ queryKey: queryKeyOf("tables") });
      queries.invalidateQueries({ queryKey: queryKeyOf("table", table) });
      queries.invalidateQueries({ queryKey: queryKeyOf("seen-table") });
      queries.invalidateQueries({ queryKey: queryKeyOf("bench") });
      // What is unreadable in a field hangs on its column's type.
      queries.invalidateQueries({ queryKey: queryKeyOf("ruled") });
      hearer.current.redefined?.();
    });
    source.addEventListener("ready", () => {
      queries.invalidateQueries({ queryKey: queryKeyOf("ruled") });
      queries.invalidateQueries({ queryKey: queryKeyOf("rows", table) });
      // What happened before the line was up was not heard.
      hearer.current.redefined?.();
      soon();
    });
    return () => {
      source.close();
      clearTimeout(again);
      clearTimeout(timer);
    };
  }, [table, door, queries, attempt]);
}
