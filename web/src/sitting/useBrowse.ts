import { useCallback, useRef, useState } from "react";
import { flushSync } from "react-dom";
import {
  answered,
  api,
  type DeskForm as Form,
  type Place,
  Problem,
  type SeenTable as Table,
} from "../api/client";
import { texts } from "../entry/texts";
import { type Ask, EVERYTHING, finding, question } from "../rows/ask";
import type { SittingDoings } from "./useSitting";

/** Moving through the records in view. The record and its number change together, in one drawing. It owns the place and the question. */
export function useBrowse(form: Form, table: Table, sitting: SittingDoings, leave: () => Promise<boolean>) {
  const { entry, say, turn } = sitting;
  const [place, setPlace] = useState<Place>();
  const [ask, setAsk] = useState<Ask>(EVERYTHING);
  const busy = useRef(false);
  const latest = useRef({ place, ask });
  latest.current = { place, ask };

  const find = useCallback(
    (to: string, asked: Ask): Promise<Place> =>
      answered(
        api.GET("/api/doors/{door}/place", {
          params: {
            path: { door: form.door.id },
            query: { to, cursor: latest.current.place?.cursor || undefined, ...question(asked) },
          },
        }),
      ) as Promise<Place>,
    [form.door.id],
  );

  /** Goes to a place among the records asked for; says whether one is there. Throws a `Problem` with a question that can't be read. */
  const go = useCallback(
    async (to: string, asked: Ask = latest.current.ask): Promise<boolean> => {
      if (busy.current) return false;
      busy.current = true;
      try {
        if (!(await leave())) return false;
        const found = await find(to, asked);
        const record = found.record;
        if (!record) return false;
        // What was typed while this was on its way belongs where it was typed.
        if (entry.dirty || entry.snapshot().pending) {
          say("You typed on, so nothing was moved.");
          return false;
        }
        flushSync(() => {
          entry.show(record, texts(form, table, record));
          setPlace(found);
          setAsk(asked);
        });
        say(
          finding(asked)
            ? `Match ${found.words} · row ${record.row}`
            : `Row ${record.row}${found.position === record.row ? "" : ` · ${found.words}`}`,
        );
        return true;
      } catch (e) {
        if (e instanceof Problem && e.status === 400) throw e;
        say(e instanceof Problem ? e.message : "No connection. Nothing was moved.", "wait");
        return false;
      } finally {
        busy.current = false;
      }
    },
    [find, entry, form, table, say, leave],
  );

  /** Begins a new entry. */
  const fresh = useCallback(async () => {
    if (!form.door.may.includes("add")) return;
    if (!(await leave())) return;
    flushSync(() => setPlace(undefined));
    turn();
    say("");
  }, [form, leave, turn, say]);

  /** What others did may have moved the number, or changed what stands here; what is typed stays. */
  const refresh = useCallback(
    async (other?: Ask) => {
      const { place: at } = latest.current;
      const asked = other ?? latest.current.ask;
      if (other) setAsk(other);
      if (!at?.record || busy.current) return;
      const found = await find(`record:${at.record.id}`, asked).catch(() => undefined);
      if (!found || latest.current.place !== at || busy.current) return;
      const { record } = found;
      if (!record) {
        // It is not in view any more; from where it stood one still steps on, unless the order is another.
        setPlace({
          ...at,
          cursor: other ? "" : at.cursor,
          position: null,
          total: found.total,
          first: false,
          last: false,
        });
        return;
      }
      setPlace(found);
      const shown = entry.snapshot().record;
      if (shown?.id === record.id && shown.version < record.version && !entry.dirty) {
        entry.show(record, texts(form, table, record));
        say(`Row ${record.row} was changed just now.`);
      }
    },
    [find, entry, form, table, say],
  );

  return { place, ask, go, fresh, refresh };
}

export type Browse = ReturnType<typeof useBrowse>;
