import { answered, api, Problem } from "../api/client";
import type { Removing, Seen } from "./removing";

const AT_ONCE = 100;

/** Removes the records that were asked about, some at a time, so that it can be ended before all are gone. */
export async function confirmRemoval(
  removing: Pick<Removing, "snapshot" | "door" | "sitting" | "under" | "over">,
) {
  const all = removing.snapshot().asked;
  const { say } = removing.sitting;
  let ended = false;
  const gone: number[] = [];
  const kept: number[] = [];
  let linked = 0;
  const stop = () => {
    ended = true;
  };
  removing.under({ done: 0, stop });
  try {
    for (let at = 0; at < all.length && !ended; at += AT_ONCE) {
      const records = all.slice(at, at + AT_ONCE).map(({ id, version }) => ({ id, version }));
      const answer = await answered(
        api.POST("/api/doors/{door}/removals", {
          params: { path: { door: removing.door } },
          body: { records },
        }),
      );
      gone.push(...answer.removed);
      kept.push(...answer.kept);
      linked += answer.linked?.length ?? 0;
      removing.under({ done: gone.length + kept.length + linked, stop });
    }
    await removing.over(gone);
    say(became(all, gone.length, kept.length, linked), kept.length + linked > 0 ? "stop" : "ok");
  } catch (e) {
    await removing.over(gone);
    say(e instanceof Problem ? e.message : `${(e as Error).message} Nothing more was removed.`, "wait");
  }
}

/** What became of those that were to be removed, in a sentence. */
function became(all: Seen[], gone: number, kept: number, linked: number): string {
  const what = all.length === 1 && gone === 1 ? `Row ${all[0]?.row} was removed` : `${gone} removed`;
  if (linked > 0)
    return `${what}; ${linked} kept, since others link to ${linked === 1 ? "it" : "them"}${kept > 0 ? `, and ${kept} changed meanwhile` : ""}.`;
  return kept > 0
    ? `${what}; ${kept} kept, since somebody changed ${kept === 1 ? "it" : "them"} meanwhile.`
    : `${what}. The removed list has ${gone === 1 ? "it" : "them"}.`;
}
