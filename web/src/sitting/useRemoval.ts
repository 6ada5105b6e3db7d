import { useState } from "react";
import { answered, api, type DeskForm as Form, Problem, type StoredRecord } from "../api/client";
import type { Browse } from "./useBrowse";
import type { SittingDoings } from "./useSitting";

/** A record that is to be removed, as it was seen. */
export type Seen = Pick<StoredRecord, "id" | "row" | "version" | "values">;

const AT_ONCE = 100;

/** Removing records, and putting them back. It owns what is asked before, and how far it is. */
export function useRemoval(form: Form, sitting: SittingDoings, browse: Browse) {
  const { say, taken } = sitting;
  const [asked, setAsked] = useState<Seen[]>([]);
  const [finished, setFinished] = useState(0);
  const [progress, setProgress] = useState<{ done: number; stop: () => void }>();

  const away = async (gone: number[]) => {
    const at = browse.place;
    if (!at?.record || !gone.includes(at.record.id)) return;
    sitting.entry.putBack();
    const moved = at.cursor !== "" && ((await browse.go("next")) || (await browse.go("previous")));
    if (!moved) await browse.fresh();
  };

  /** Removes those that were asked about, some at a time, so that it can be given up. */
  const confirm = async () => {
    const all = asked;
    let given = false;
    const gone: number[] = [];
    const kept: number[] = [];
    let linked = 0;
    setProgress({
      done: 0,
      stop: () => {
        given = true;
      },
    });
    try {
      for (let at = 0; at < all.length && !given; at += AT_ONCE) {
        const records = all.slice(at, at + AT_ONCE).map(({ id, version }) => ({ id, version }));
        const answer = await answered(
          api.POST("/api/doors/{door}/removals", {
            params: { path: { door: form.door.id } },
            body: { records },
          }),
        );
        gone.push(...answer.removed);
        kept.push(...answer.kept);
        linked += answer.linked?.length ?? 0;
        setProgress((now) => now && { ...now, done: gone.length + kept.length + linked });
      }
      setAsked([]);
      await away(gone);
      const what =
        all.length === 1 && gone.length === 1 ? `Row ${all[0]?.row} was removed` : `${gone.length} removed`;
      say(
        linked > 0
          ? `${what}; ${linked} kept, since others link to ${linked === 1 ? "it" : "them"}${kept.length > 0 ? `, and ${kept.length} changed meanwhile` : ""}.`
          : kept.length > 0
            ? `${what}; ${kept.length} kept, since somebody changed ${kept.length === 1 ? "it" : "them"} meanwhile.`
            : `${what}. The removed list has ${gone.length === 1 ? "it" : "them"}.`,
        kept.length + linked > 0 ? "stop" : "ok",
      );
    } catch (e) {
      setAsked([]);
      say(e instanceof Problem ? e.message : "No connection. Nothing more was removed.", "wait");
    } finally {
      setProgress(undefined);
      setFinished((times) => times + 1);
    }
  };

  /** Puts a removed record back; says whether it could be. */
  const putBack = async (id: number): Promise<StoredRecord | undefined> => {
    try {
      const record = await answered(
        api.POST("/api/doors/{door}/records/{id}/restore", {
          params: { path: { door: form.door.id, id } },
          body: {},
        }),
      );
      say(`Put back in row ${record.row}`, "ok");
      taken(id, record);
      return record;
    } catch (e) {
      say(
        e instanceof Problem ? (e.findings[0]?.message ?? e.message) : "No connection. It was not put back.",
        "stop",
      );
      return undefined;
    }
  };

  /** Takes an entry of this sitting back, unless somebody changed it since. */
  const takeBack = async (record: StoredRecord) => {
    try {
      await answered(
        api.DELETE("/api/doors/{door}/records/{id}", {
          params: {
            path: { door: form.door.id, id: record.id },
            header: { "If-Match": `"${record.version}"` },
          },
        }),
      );
      taken(record.id);
      say(`Row ${record.row} was taken back`, "ok");
      await away([record.id]);
    } catch (e) {
      const changed = e instanceof Problem && (e.status === 412 || e.status === 404);
      say(
        changed
          ? `Row ${record.row} was changed since it was saved. Open it to see.`
          : "No connection. It was not taken back.",
        "stop",
      );
    }
  };

  return { asked, ask: setAsked, confirm, finished, progress, keep: () => setAsked([]), putBack, takeBack };
}

export type Removal = ReturnType<typeof useRemoval>;
