import { answered, api, type Form, Problem } from "../api/client";
import { type Revised, withRevision } from "../api/queries";
import { Subscribable } from "../model/subscribable";
import type { Edit } from "./edits";

const SAVE_AFTER = 300;
const RETRY_AFTER = 1_500;

/** Whom a working copy tells. */
export interface Hearers {
  /** Something that its builder must know; whether it stands in the way. */
  say: (text: string, stop?: boolean) => void;
  /** The server has a state that it is now on; `there` is the document of it, where that came with the answer. */
  known: (there?: Revised) => void;
}

/**
 * The working copy of a form, with all that was changed here at once and is saved a moment later. It owns the changes that are not saved yet and
 * never drops one without saying so: when somebody else changed the form meanwhile, they are made again on top of theirs.
 * One thing at a time goes to the server, so that no answer undoes what another one brought.
 */
export class WorkingCopy extends Subscribable<Form> {
  private revision: number;
  private waiting: Edit[] = [];
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** What is under way with the server. */
  private busy: Promise<void> | undefined;
  /** What was sent on the present revision and not answered: it may have been saved all the same, with so many edits. */
  private unanswered: { form: Form; edits: number }[] = [];
  /** Something was heard of while that was so. */
  private stale = false;
  private readonly id: string;

  constructor(
    start: Revised,
    form: Form = start.form,
    private hearers: Hearers = { say: () => {}, known: () => {} },
  ) {
    super(form);
    this.revision = start.revision;
    this.id = start.form.id;
  }

  /** Tells those from now on. */
  tell(hearers: Hearers) {
    this.hearers = hearers;
  }

  /** Makes a change, now; it is saved a moment later. */
  edit = (change: Edit) => {
    const next = change(this.state);
    if (same(next, this.state)) return;
    this.waiting = [...this.waiting, change];
    this.become(next);
    clearTimeout(this.timer);
    this.timer = setTimeout(this.flush, SAVE_AFTER);
  };

  /** Saves what was changed here; over when all of it is. */
  flush = async (): Promise<void> => {
    clearTimeout(this.timer);
    while (this.busy || this.waiting.length > 0) {
      this.busy ??= this.save().finally(() => {
        this.busy = undefined;
      });
      await this.busy;
    }
    if (this.stale) this.heard().catch(() => {});
  };

  /** Lets the server change the form, after what was changed here is saved; answers whether it did. */
  ask = async (asked: (ifMatch: string) => Parameters<typeof withRevision>[0]): Promise<boolean> => {
    try {
      do await this.flush();
      while (this.busy);
      const done = this.asking(asked).finally(() => {
        this.busy = undefined;
      });
      this.busy = done.catch(() => {});
      await done;
      return true;
    } catch (e) {
      this.hearers.say((e as Error).message, true);
      return false;
    } finally {
      this.flush();
    }
  };

  /** Somebody changed the form, or its table: it is looked at anew, once it is not being changed right here. */
  heard = async (): Promise<void> => {
    this.stale = true;
    while (this.stale && !this.changing) {
      this.stale = false;
      const there = await this.fetched();
      // What was asked before a change that was made here tells nothing of it.
      if (this.changing || there.revision < this.revision) this.stale = true;
      else if (there.revision > this.revision || !same(there.form, this.state)) this.adopt(there);
    }
  };

  /** Publishes it, after what was changed here is saved. */
  publish = async (despite: boolean) => {
    await this.flush();
    return answered(
      api.POST("/api/forms/{form}/publish", {
        params: {
          path: { form: this.id },
          query: { despite: despite ? "frays" : undefined },
          header: { "If-Match": `"${this.revision}"` },
        },
      }),
    );
  };

  private get changing(): boolean {
    return this.busy !== undefined || this.waiting.length > 0;
  }

  /** What the server has, with what was changed here on top of it. */
  private adopt(there: Revised) {
    this.revision = there.revision;
    this.unanswered = [];
    this.become(this.waiting.reduce((each, edit) => edit(each), there.form));
    this.hearers.known(there);
  }

  private fetched(): Promise<Revised> {
    return withRevision(api.GET("/api/forms/{form}", { params: { path: { form: this.id } } }));
  }

  private async save() {
    while (this.waiting.length > 0) {
      const sent = this.waiting;
      this.waiting = [];
      const params = { path: { form: this.id }, header: { "If-Match": `"${this.revision}"` } };
      const body = this.state;
      try {
        const saved = await withRevision(api.PUT("/api/forms/{form}", { params, body }));
        this.revision = saved.revision;
        this.unanswered = [];
        // Values that the form spells follow how dates and numbers are typed from now on.
        if (same(saved.form, body)) this.hearers.known();
        else this.adopt(saved);
      } catch (e) {
        this.waiting = [...sent, ...this.waiting];
        if (!(e instanceof Problem)) this.unanswered.push({ form: body, edits: sent.length });
        await this.failed(e);
      }
    }
  }

  private async failed(e: unknown) {
    try {
      if (e instanceof Problem && e.status === 412) {
        const there = await this.fetched();
        const done = this.unanswered.find((each) => same(there.form, each.form));
        if (done) {
          // It was saved, and only the answer was lost.
          this.waiting = this.waiting.slice(done.edits);
          this.adopt(there);
          return;
        }
        this.adopt(there);
        this.hearers.say("Somebody else changed this form too. What you changed was made on top of it.");
        return;
      }
      if (e instanceof Problem) {
        const there = await this.fetched();
        this.waiting = [];
        this.adopt(there);
        this.hearers.say(`${e.message} The change was put back.`, true);
        return;
      }
    } catch {
      // Nothing can be known just now, and what was changed here waits.
    }
    this.hearers.say("No connection. Your changes stay here and are saved when it is back.", true);
    await new Promise((resolve) => setTimeout(resolve, RETRY_AFTER));
  }

  private async asking(asked: (ifMatch: string) => Parameters<typeof withRevision>[0]) {
    try {
      this.adopt(await withRevision(asked(`"${this.revision}"`)));
    } catch (e) {
      if (!(e instanceof Problem) || e.status !== 412) throw e;
      this.adopt(await this.fetched());
      this.adopt(await withRevision(asked(`"${this.revision}"`)));
    }
  }
}

/** Whether they say the same, whoever wrote them; what both share is not gone through. */
function same(one: unknown, other: unknown): boolean {
  if (one === other) return true;
  if (!one || !other || typeof one !== "object" || typeof other !== "object") return false;
  return Object.keys({ ...one, ...other }).every((name) =>
    same(one[name as keyof typeof one], other[name as keyof typeof other]),
  );
}
