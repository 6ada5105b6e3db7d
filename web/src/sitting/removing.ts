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
