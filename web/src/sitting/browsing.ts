import {
  answered,
  api,
  type DeskForm as Form,
  type Place,
  Problem,
  type StoredRecord,
  type SeenTable as Table,
} from "../api/client";
import type { Sitting } from "../entry/sitting";
import { texts } from "../entry/texts";
import { Subscribable } from "../model/subscribable";
import { type Ask, EVERYTHING, finding, question } from "../rows/ask";

/** What moving needs of the page. */
interface BrowsingHands {
  /** Says whether what is in the form may be left, once it is saved or put back. */
  leave: () => Promise<boolean>;
  /** Makes a change and has it drawn before this returns. */
  draw: (change: () => void) => void;
}

interface BrowsingState {
  place: Place | undefined;
  ask: Ask;
}

/** Moving through the records in view. The record and its number change together, in one drawing. It owns the place and the question. */
export class Browsing extends Subscribable<BrowsingState> {
  private busy = false;

  constructor(
    private readonly sitting: Pick<Sitting, "entry" | "say" | "turn" | "giveBack">,
    private readonly hands: BrowsingHands,
    private form: Form,
    private table: Table,
  ) {
    super({ place: undefined, ask: EVERYTHING });
  }

  /** Goes by that version of the form from now on. */
  follow(form: Form, table: Table) {
    this.form = form;
    this.table = table;
  }

  /** Goes to a place among the records asked for; says whether one is there. Throws a `Problem` with a question that can't be read. */
  go = async (to: string, asked: Ask = this.state.ask): Promise<boolean> => {
    if (this.busy) return false;
    this.busy = true;
    const { entry, say } = this.sitting;
    try {
      if (!(await this.hands.leave())) return false;
      const found = await this.find(to, asked);
      const record = found.record;
      if (!record) return false;
      // What was typed while this was on its way belongs where it was typed.
      if (entry.dirty || entry.snapshot().pending) {
        say("You typed on, so nothing was moved.");
        return false;
      }
      this.hands.draw(() => {
        this.show(record);
        this.set({ place: found, ask: asked });
      });
      say(
        finding(asked)
          ? `Match ${found.words} · row ${record.row}`
          : `Row ${record.row}${found.position === record.row ? "" : ` · ${found.words}`}`,
      );
      return true;
    } catch (e) {
      if (e instanceof Problem && e.status === 400) throw e;
      say(e instanceof Problem ? e.message : `${(e as Error).message} Nothing was moved.`, "wait");
      return false;
    } finally {
      this.busy = false;
    }
  };

  /** Begins a new entry, or goes on with the one that was left half typed. */
  fresh = async () => {
    if (!this.form.door.may.includes("add")) return;
    const { entry, turn, giveBack, say } = this.sitting;
    const looked = entry.snapshot().record !== undefined;
    if (!(await this.hands.leave())) return;
    this.hands.draw(() => this.set({ place: undefined }));
    turn();
    if (looked && giveBack()) say("Here is what you had typed.");
    else say("");
  };

  /** What others did may have moved the number, or changed what stands here; what is typed stays. */
  refresh = async (other?: Ask) => {
    const { place: at } = this.state;
    const asked = other ?? this.state.ask;
    if (other) this.set({ ask: other });
    if (!at?.record || this.busy) return;
    const found = await this.find(`record:${at.record.id}`, asked).catch(() => undefined);
    if (!found || this.state.place !== at || this.busy) return;
    const { record } = found;
    if (!record) {
      // It is not in view any more; from where it stood one still steps on, unless the order is another.
      const cursor = other ? "" : at.cursor;
      this.set({
        place: { ...at, cursor, position: null, total: found.total, first: false, last: false },
      });
      return;
    }
    this.set({ place: found });
    const { entry, say } = this.sitting;
    const shown = entry.snapshot().record;
    if (shown?.id === record.id && shown.version < record.version && !entry.dirty) {
      this.show(record);
      say(`Row ${record.row} was changed just now.`);
    }
  };

  private show(record: StoredRecord) {
    this.sitting.entry.show(record, texts(this.form, this.table, record));
  }

  private find(to: string, asked: Ask): Promise<Place> {
    return answered(
      api.GET("/api/doors/{door}/place", {
        params: {
          path: { door: this.form.door.id },
          query: { to, cursor: this.state.place?.cursor || undefined, ...question(asked) },
        },
      }),
    );
  }
}
