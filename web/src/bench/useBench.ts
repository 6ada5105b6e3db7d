import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { answered, api, type FormItem, type Schemas, type Table } from "../api/client";
import { queryKeyOf } from "../api/keys";
import type { Revised } from "../api/queries";
import { Entry } from "../entry/entry";
import { useLiveTable } from "../live/live";
import { itemsOf } from "../model/items";
import { change, insert, move, remove, renamed } from "./edits";
import { QuickLines } from "./quickLines";
import { RuleLines } from "./rules/ruleLines";
import { threadsOf } from "./threads";
import { Turns } from "./turns";
import { useWorkingCopy } from "./useWorkingCopy";

export const benchQuery = (form: string) => ({
  queryKey: queryKeyOf("bench", form),
  queryFn: () => answered(api.GET("/api/forms/{form}/bench", { params: { path: { form } } })),
});

const CLIPBOARD = "weft-items";

/** Before the server has said how the rules read. */
export const NOTHING_TOLD: Schemas["RuleJson"][] = [];

const NOTHING: string[] = [];

/** Stored records that break a rule, and the rule. */
export interface Found {
  rule: Schemas["RuleJson"];
  came: Schemas["Looked"];
}

/** All that one can do at the Bench with one form. It owns what is selected and what was last said. */
export function useBench(start: Revised, table: Table) {
  const [said, setSaid] = useState<{ text: string; stop: boolean }>({ text: "", stop: false });
  const say = useCallback((text: string, stop = false) => setSaid({ text, stop }), []);
  const { copy, form } = useWorkingCopy(start, say);
  const { edit, ask, snapshot: latest } = copy;
  const turns = useMemo(() => new Turns(copy.flush), [copy]);
  // They outlive their boxes: a line that is refused after one went elsewhere is there when one is back.
  const typing = useMemo(
    () => ({ lines: new QuickLines(), below: new QuickLines(), rules: new RuleLines() }),
    [],
  );
  const queries = useQueryClient();
  const state = useQuery(benchQuery(form.id)).data;
  const told = state?.rules ?? NOTHING_TOLD;
  const [face, setFace] = useState<"fields" | "rules">("fields");
  const [rule, setRule] = useState<string>();
  const [scope, setScope] = useState<string>();
  const [found, setFound] = useState<Found>();
  // The columns that the rule that is open speaks of.
  const ruling = useMemo(
    () => (face === "rules" && !scope ? (told.find(({ key }) => key === rule)?.columns ?? NOTHING) : NOTHING),
    [face, scope, told, rule],
  );
  const [allThreads, setAllThreads] = useState(false);
  const [selected, setSelected] = useState<string[]>([]);
  const [open, setOpen] = useState(false);
  const anchor = useRef<string>(undefined);
  const entry = useMemo(() => new Entry(form.id, true), [form.id]);
  useLiveTable(table.name, {
    redefined: () => copy.heard().catch(() => {}),
    redrafted: (changed) => changed === form.id && copy.heard().catch(() => {}),
  });

  // What is typed is read anew when the rules of the form change.
  const revision = state?.revision;
  useEffect(() => {
    entry.follow(latest(), revision);
    entry.again();
  }, [entry, latest, revision]);

  const ids = useMemo(() => itemsOf(form).map((item) => item.id), [form]);
  const threads = useMemo(() => threadsOf(form, table), [form, table]);
  const chosen = selected.filter((id) => ids.includes(id));
  const items = itemsOf(form).filter((item) => chosen.includes(item.id));

  const select = useCallback(
    (id: string, how: "only" | "more" | "range" = "only") => {
      if (how === "range" && anchor.current) {
        const ids = itemsOf(latest()).map((item) => item.id);
        const [from, to] = [ids.indexOf(anchor.current), ids.indexOf(id)].sort((a, b) => a - b);
        setSelected(ids.slice(from, (to ?? 0) + 1));
        return;
      }
      anchor.current = id;
      setSelected((before) =>
        how === "only" ? [id] : before.includes(id) ? before.filter((each) => each !== id) : [...before, id],
      );
    },
    [latest],
  );

  /** Columns changed too, so that what is known of the table is old. */
  const remade = async () => {
    await queries.invalidateQueries({ queryKey: queryKeyOf("table", table.name) });
    await copy.heard();
  };

  const path = { form: form.id };
  /** Makes fields of lines, and says the id of the last one. */
  const addLines = async (lines: string[], after?: string): Promise<string | undefined> => {
    const before = new Set(itemsOf(latest()).map((item) => item.id));
    const done = await ask((ifMatch) =>
      api.POST("/api/forms/{form}/lines", {
        params: { path, header: { "If-Match": ifMatch } },
        body: { lines, after },
      }),
    );
    if (!done) return undefined;
    remade();
    const last = itemsOf(latest())
      .filter((item) => !before.has(item.id))
      .at(-1);
    if (last) select(last.id);
    say(lines.length === 1 ? `${lines[0]?.split(",")[0]} is added.` : `${lines.length} fields are added.`);
    return last?.id;
  };

  const tie = (columns: string[], after?: string) =>
    ask((ifMatch) =>
      api.POST("/api/forms/{form}/loose-ends", {
        params: { path, header: { "If-Match": ifMatch } },
        body: { lines: columns, after },
      }),
    );

  const step = (way: "back" | "forth") =>
    ask((ifMatch) =>
      api.POST("/api/forms/{form}/step", {
        params: { path, query: { way }, header: { "If-Match": ifMatch } },
      }),
    );

  const mend = (fray: string) =>
    ask((ifMatch) =>
      api.POST("/api/forms/{form}/mend", {
        params: { path, header: { "If-Match": ifMatch } },
        body: { fray },
      }),
    );

  const restore = (version: number) =>
    ask((ifMatch) =>
      api.POST("/api/forms/{form}/versions/{version}/restore", {
        params: { path: { ...path, version }, header: { "If-Match": ifMatch } },
      }),
    );

  const patch = (ofItems: Record<string, unknown>) => edit(change(chosen, ofItems));

  const takeOff = () => {
    if (chosen.length === 0) return;
    const at = ids.indexOf(chosen[0] ?? "");
    const rest = ids.filter((id) => !chosen.includes(id));
    edit(remove(chosen));
    const next = rest[Math.min(at, rest.length - 1)];
    setSelected(next ? [next] : []);
    say(
      chosen.length === 1 ? "Taken off the form; its column stays." : `${chosen.length} items are taken off.`,
    );
  };

  /** Puts items after what is selected, or at the foot of the form. */
  const put = (fresh: FormItem[], foot = false) => {
    const named = renamed(form, fresh);
    edit(insert(named, foot ? ids.at(-1) : chosen.at(-1)));
    setSelected(named.map((item) => item.id));
  };

  const copyItems = () => JSON.stringify({ [CLIPBOARD]: items });

  /** Items of this form or another one, or lines to make fields of. */
  const paste = (text: string) => {
    try {
      const pasted = JSON.parse(text)?.[CLIPBOARD] as FormItem[] | undefined;
      if (pasted) return put(pasted);
    } catch {
      // It is text, then.
    }
    const lines = text
      .split(/[\n\t]+/)
      .map((line) => line.trim())
      .filter(Boolean);
    if (lines.length > 0) addLines(lines, chosen.at(-1));
  };

  return {
    form,
    edit,
    publish: async (despite: boolean) => {
      await turns.over();
      return copy.publish(despite);
    },
    /** What is being made of what was typed. */
    turns,
    /** The lines that one types fields and rules into. */
    typing,
    latest,
    state,
    /** The rules as sentences, in the order in which they act. */
    told,
    /** Which face of the side at the left is seen. */
    face,
    setFace,
    /** The rule that is open, by its key. */
    rule,
    setRule,
    /** The lines whose rules are seen, where they are not those of the form. */
    scope,
    setScope,
    found,
    setFound,
    ruling,
    /** Whether each thread is drawn whole, rather than only those that are wanted. */
    allThreads,
    setAllThreads,
    said,
    say,
    ids,
    items,
    threads,
    selected: chosen,
    select,
    clear: () => setSelected([]),
    all: () => setSelected(ids),
    open,
    setOpen,
    patch,
    takeOff,
    shift: (by: -1 | 1) => edit(move(chosen, by)),
    put,
    copyItems,
    paste,
    addLines,
    tie,
    step,
    mend,
    restore,
    remade,
    entry,
    /** Of which lines on the form the rules are; of the form itself when none is said. */
    lines: undefined as string | undefined,
  };
}

export type BenchDoings = ReturnType<typeof useBench>;

/** What can be done now, always under one name, so that what only does things is not drawn again when they change. */
export function useLatest(bench: BenchDoings): () => BenchDoings {
  const latest = useRef(bench);
  latest.current = bench;
  return useCallback(() => latest.current, []);
}
