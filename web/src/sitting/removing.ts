import { answered, api, Problem, type StoredRecord } from "../api/client";
import type { Sitting } from "../entry/sitting";
import { Subscribable } from "../model/subscribable";
import type { Browsing } from "./browsing";

/** A record that is to be removed, as it was seen. */
export type Seen = Pick<StoredRecord, "id" | "row" | "version" | "values">;

interface RemovingState {
  /** What is asked before it is removed. */
  asked: Seen[];
  /** How far a removal is that is under way. */
  progress: { done: number; stop: () => void } | undefined;
  /** How many removals are over. */
  finished: number;
}

const AT_ONCE = 100;

/** Removing records, and putting them back. */
export class Removing extends Subscribable<RemovingState> {
  constructor(
    private readonly sitting: Pick<Sitting, "entry" | "say" | "taken">,
    private readonly browsing: Browsing,
    private readonly door: string,
  ) {
    super({ asked: [], progress: undefined, finished: 0 });
  }

  /** Asks before those are removed. */
  ask = (asked: Seen[]) => this.set({ asked });

  /** They stay. */
  keep = () => this.set({ asked: [] });

  /** Removes those that were asked about, some at a time, so that it can be given up. */
  confirm = async () => {
    const all = this.state.asked;
    const { say } = this.sitting;
    let given = false;
    const gone: number[] = [];
    const kept: number[] = [];
    let linked = 0;
    const stop = () => {
      given = true;
    };
    this.set({ progress: { done: 0, stop } });
    try {
      for (let at = 0; at < all.length && !given; at += AT_ONCE) {
        const records = all.slice(at, at + AT_ONCE).map(({ id, version }) => ({ id, version }));
        const answer = await answered(
          api.POST("/api/doors/{door}/removals", {
            params: { path: { door: this.door } },
            body: { records },
          }),
        );
        gone.push(...answer.removed);
        kept.push(...answer.kept);
        linked += answer.linked?.length ?? 0;
        this.set({ progress: { done: gone.length + kept.length + linked, stop } });
      }
      this.keep();
      await this.away(gone);
      say(became(all, gone.length, kept.length, linked), kept.length + linked > 0 ? "stop" : "ok");
    } catch (e) {
      this.keep();
      await this.away(gone);
      say(e instanceof Problem ? e.message : "No connection. Nothing more was removed.", "wait");
    } finally {
      this.set({ progress: undefined, finished: this.state.finished + 1 });
    }
  };

  /** Puts a removed record back; answers with it if it could be. */
  putBack = async (id: number): Promise<StoredRecord | undefined> => {
    const { say, taken } = this.sitting;
    try {
      const record = await answered(
        api.POST("/api/doors/{door}/records/{id}/restore", {
          params: { path: { door: this.door, id } },
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
  takeBack = async (record: StoredRecord) => {
    const { say, taken } = this.sitting;
    try {
      await answered(
        api.DELETE("/api/doors/{door}/records/{id}", {
          params: {
            path: { door: this.door, id: record.id },
            header: { "If-Match": `"${record.version}"` },
          },
        }),
      );
      taken(record.id);
      say(`Row ${record.row} was taken back`, "ok");
      await this.away([record.id]);
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

  /** From a record that is gone one goes on to the next, or to the one before it. */
  private async away(gone: number[]) {
    const { browsing } = this;
    const at = browsing.snapshot().place;
    if (!at?.record || !gone.includes(at.record.id)) return;
    this.sitting.entry.putBack();
    const moved = at.cursor !== "" && ((await browsing.go("next")) || (await browsing.go("previous")));
    if (!moved) await browsing.fresh();
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
