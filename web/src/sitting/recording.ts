import {
  answered,
  api,
  type DeskForm as Form,
  Problem,
  type StoredRecord,
  type SeenTable as Table,
} from "../api/client";
import { outdated } from "../entry/derived";
import type { EntryState } from "../entry/entry";
import type { Typed } from "../entry/outbox";
import type { Sitting } from "../entry/sitting";
import { texts } from "../entry/texts";
import { Subscribable } from "../model/subscribable";

/** Two versions of one record: what one typed, and what somebody else stored meanwhile. */
export interface Conflict {
  base: Typed;
  mine: Typed;
  theirs: Typed;
  now: StoredRecord;
}

/** Changes to a stored record: saved where nobody changed it meanwhile, laid side by side where somebody did. */
export class Recording extends Subscribable<{ conflict: Conflict | undefined }> {
  constructor(
    private readonly sitting: Pick<Sitting, "entry" | "say" | "refuse" | "after" | "touched">,
    private form: Form,
    private table: Table,
  ) {
    super({ conflict: undefined });
  }

  /** Goes by that version of the form from now on. */
  follow(form: Form, table: Table) {
    this.form = form;
    this.table = table;
  }

  /** Saves what is changed in the record in the form; says whether it is stored. */
  save = async (): Promise<boolean> => {
    const { entry, say } = this.sitting;
    const sent = entry.snapshot();
    const { record } = sent;
    if (!record) return false;
    if (!entry.dirty && Object.keys(outdated(this.form, this.table, sent)).length === 0) {
      say(`Nothing is changed in row ${record.row}.`);
      return true;
    }
    try {
      const { then = [], ...now } = await answered(
        api.PUT("/api/doors/{door}/records/{id}", {
          params: {
            path: { door: this.form.door.id, id: record.id },
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
      if (entry.snapshot().record?.id === now.id) entry.stored(now, this.texts(now), sent.typed);
      say(`Changed in row ${now.row}`, "ok");
      this.sitting.touched(now);
      this.sitting.after(then);
      return true;
    } catch (e) {
      return this.refused(e, record, sent);
    }
  };

  /** Goes on with what was chosen of both versions; nothing is left out unseen. */
  settle = (chosen: Typed) => {
    const { conflict } = this.state;
    if (!conflict) return;
    const { entry, say } = this.sitting;
    this.set({ conflict: undefined });
    entry.show(conflict.now, conflict.theirs, chosen);
    if (entry.dirty) this.save();
    else say(`Row ${conflict.now.row} stays as it was stored.`);
  };

  /** The conflict is settled another time; what is typed stays. */
  later = () => this.set({ conflict: undefined });

  private texts(record: StoredRecord): Typed {
    return texts(this.form, this.table, record);
  }

  private refused(e: unknown, record: StoredRecord, sent: EntryState): boolean {
    const { entry, say, refuse } = this.sitting;
    if (!(e instanceof Problem)) {
      say(`${(e as Error).message} Your change stays here; save it again.`, "wait");
    } else if (e.status === 412 && e.body.lines) {
      entry.linesNow(e.body.lines as Parameters<typeof entry.linesNow>[0]);
      say(e.message, "stop");
    } else if (e.status === 412 && e.body.record) {
      return this.overtaken(e.body.record as StoredRecord, sent);
    } else if (e.status === 412 || e.status === 404) {
      say(
        `Row ${record.row} was deleted meanwhile. Put it back from the removed list, then save again.`,
        "stop",
      );
    } else {
      const usual = e.body.usual as string | undefined;
      refuse({ findings: e.findings, message: e.message, usual }, () => this.save());
    }
    return false;
  }

  /** The record is another by now: by somebody else, or by this very change, whose answer was lost on its way. */
  private overtaken(now: StoredRecord, { base, typed }: EntryState): boolean {
    const theirs = this.texts(now);
    const same = Object.keys(theirs).every((column) => theirs[column] === (typed[column] ?? "").trim());
    if (same) this.sitting.entry.show(now, theirs);
    else this.set({ conflict: { base, mine: typed, theirs, now } });
    return same;
  }
}
