import { useCallback, useRef, useState } from "react";
import {
  answered,
  api,
  type DeskForm as Form,
  Problem,
  type StoredRecord,
  type SeenTable as Table,
} from "../api/client";
import type { Typed } from "../entry/outbox";
import { texts } from "../entry/texts";
import type { SittingDoings } from "./useSitting";

/** Two versions of one record: what one typed, and what somebody else stored meanwhile. */
export interface Conflict {
  base: Typed;
  mine: Typed;
  theirs: Typed;
  now: StoredRecord;
}

/** Changes to a stored record: saved where nobody changed it meanwhile, laid side by side where somebody did. It owns the conflict until it is settled. */
export function useRecord(form: Form, table: Table, sitting: SittingDoings) {
  const { entry, say, showStops, put, after } = sitting;
  const again = useRef<() => void>(() => {});
  const [conflict, setConflict] = useState<Conflict>();

  const save = useCallback(async (): Promise<boolean> => {
    const { record, base, typed } = entry.snapshot();
    if (!record) return false;
    if (!entry.dirty) {
      say(`Nothing is changed in row ${record.row}.`);
      return true;
    }
    try {
      const { then = [], ...now } = await answered(
        api.PUT("/api/doors/{door}/records/{id}", {
          params: {
            path: { door: form.door.id, id: record.id },
            header: { "If-Match": `"${record.version}"` },
          },
          body: {
            values: entry.values,
            lines: entry.sentLines,
            version: entry.version,
            ...entry.beside,
          },
        }),
      );
      if (entry.snapshot().record?.id === now.id) entry.stored(now, texts(form, table, now), typed);
      say(`Changed in row ${now.row}`, "ok");
      after(then);
      return true;
    } catch (e) {
      if (!(e instanceof Problem)) {
        say("No connection. Your change stays here; save it again when it is back.", "wait");
      } else if (e.status === 412 && e.body.lines) {
        entry.linesNow(e.body.lines as Parameters<typeof entry.linesNow>[0]);
        say(e.message, "stop");
      } else if (e.status === 412 && e.body.record) {
        const now = e.body.record as StoredRecord;
        const theirs = texts(form, table, now);
        const same = Object.keys(theirs).every((column) => theirs[column] === (typed[column] ?? "").trim());
        // The answer to a change that did arrive was lost on its way.
        if (same) {
          entry.show(now, theirs);
          return true;
        }
        setConflict({ base, mine: typed, theirs, now });
      } else if (e.status === 412 || e.status === 404) {
        say(
          `Row ${record.row} was deleted meanwhile. Put it back from the removed list, then save again.`,
          "stop",
        );
      } else {
        showStops(typed, e.findings, e.message);
        put(e.findings, e.body.usual as string | undefined, () => again.current());
      }
      return false;
    }
  }, [entry, form, table, say, showStops, put, after]);
  again.current = save;

  /** Goes on with what was chosen of both versions; nothing is left out unseen. */
  const settle = useCallback(
    (chosen: Typed) => {
      if (!conflict) return;
      setConflict(undefined);
      entry.show(conflict.now, conflict.theirs, chosen);
      if (entry.dirty) save();
      else say(`Row ${conflict.now.row} stays as it was stored.`);
    },
    [conflict, entry, save, say],
  );

  return { save, conflict, settle, later: () => setConflict(undefined) };
}
