import { answered, api, Problem, type StoredRecord } from "../api/client";
import type { Kept, Sitting } from "../entry/sitting";
import { Subscribable } from "../model/subscribable";
import type { Browsing } from "./browsing";

/** A record that is to be removed, as it was seen. */
export type Seen = Pick<StoredRecord, "id" | "row" | "version" | "values">;

/** Takes entries back at a door with what they did elsewhere: all of them, or none. */
export const undone = (door: string, records: Pick<Seen, "id" | "version">[]) =>
  answered(
    api.POST("/api/doors/{door}/take-back", {
      params: { path: { door } },
      body: { records: records.map(({ id, version }) => ({ id, version })) },
    }),
  );

/** Says that what a save did elsewhere is undone with it, but for messages that had gone out. */
const withElsewhere = (sent: number) =>
  sent === 0
    ? ", with what it did elsewhere"
    : sent === 1
      ? ", with what it did elsewhere. Its message has gone out already."
      : `, with what it did elsewhere. ${sent} messages have gone out already.`;

interface RemovingState {
  /** What is asked before it is removed. */
  asked: Seen[];
  /** How far a removal is that is under way. */
  progress: { done: number; stop: () => void } | undefined;
  /** How many removals are over. */
  finished: number;
}

/** Removing records, and putting them back. */
export class Removing extends Subscribable<RemovingState> {
  constructor(
    readonly sitting: Pick<Sitting, "entry" | "say" | "taken" | "touched">,
    private readonly browsing: Browsing,
    readonly door: string,
  ) {
    super({ asked: [], progress: undefined, finished: 0 });
  }

  /** Asks before those are removed. */
  ask = (asked: Seen[]) => this.set({ asked });

  /** They stay. */
  keep = () => this.set({ asked: [] });

  /** How far it is with those that were asked about. */
  under(progress: RemovingState["progress"]) {
    this.set({ progress });
  }

  /** Those of them are gone, and nothing is asked any more. */
  async over(gone: number[]) {
    for (const each of this.state.asked) if (gone.includes(each.id)) this.sitting.touched(each, true);
    this.keep();
    await this.away(gone);
    this.set({ progress: undefined, finished: this.state.finished + 1 });
  }

  /** Those of which something elsewhere is not as they left it: the next time only they themselves come back or go. */
  private readonly alone = new Set<number>();

  /** Puts a removed record back, with what was undone elsewhere with it; answers with it if it could be. */
  putBack = async (id: number, elsewhere: Kept["record"]["elsewhere"] = []) => {
    const { say, taken } = this.sitting;
    const alone = this.alone.delete(id);
    try {
      const record = await answered(
        api.POST("/api/doors/{door}/records/{id}/restore", {
          params: { path: { door: this.door, id } },
          body: { elsewhere: !alone },
        }),
      );
      say(`Put back in row ${record.row}`, "ok");
      taken(id, { ...record, elsewhere: alone ? [] : elsewhere });
      return record;
    } catch (e) {
      say(this.notDone(e, id, "put back"), "stop");
      return undefined;
    }
  };

  /** Takes an entry of this sitting back with what it did elsewhere, unless somebody changed it since. */
  takeBack = async (record: Kept["record"]) => {
    const { say, taken } = this.sitting;
    const alone = this.alone.delete(record.id);
    try {
      const { sent } = alone ? await this.removed(record) : await undone(this.door, [record]);
      taken(record.id);
      say(
        `Row ${record.row} was taken back${alone || !record.elsewhere?.length ? "" : withElsewhere(sent)}`,
        "ok",
      );
      await this.away([record.id]);
    } catch (e) {
      const changed = e instanceof Problem && (e.status === 412 || e.status === 404);
      say(
        changed
          ? `Row ${record.row} was changed since it was saved. Open it to see.`
          : this.notDone(e, record.id, "take back"),
        "stop",
      );
    }
  };

  /** Says what was in the way of that, and that it goes alone where something elsewhere was. */
  private notDone(e: unknown, id: number, what: string) {
    if (!(e instanceof Problem)) return "No connection. Nothing was done.";
    if (e.status !== 409 || !e.body.elsewhere) return e.findings[0]?.message ?? e.message;
    this.alone.add(id);
    return `${e.message} Once more: ${what} only the entry.`;
  }

  private async removed({ id, version }: Seen) {
    await answered(
      api.DELETE("/api/doors/{door}/records/{id}", {
        params: { path: { door: this.door, id }, header: { "If-Match": `"${version}"` } },
      }),
    );
    return { sent: 0 };
  }

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
