import type { Finding, Form, FormField, Saved, StoredRecord, Then } from "../api/client";
import { fieldsOf, firstField } from "../model/items";
import { Subscribable } from "../model/subscribable";
import { Entry } from "./entry";
import { Outbox, type Outgoing, type Typed } from "./outbox";

/** An entry saved in this sitting. */
export interface Kept {
  record: StoredRecord;
  at: number;
  /** Whether it was taken back; it can be put back again. */
  taken: boolean;
}

/** What was last said to the keyer. */
export interface Said {
  text: string;
  tone: "" | "ok" | "stop" | "wait";
}

/** What must be answered before an entry is saved. */
export interface Question {
  findings: Finding[];
  /** What Enter answers: yes, no or cancel; to go back where it only asks whether to save all the same. */
  usual: string | undefined;
  answered: () => void;
}

/** What a sitting needs of the page that it is on. */
export interface Hands {
  /** Makes a change and has it drawn before this returns, so that the very next key finds it. */
  draw: (change: () => void) => void;
  /** Puts the cursor into the field of that column; `over` where what stands there gives way to the first key. */
  focus: (column: string | undefined, over: boolean) => void;
  /** Puts the cursor into that cell of the form's lines. */
  focusLine: (lines: string, at: number, column: string) => void;
  /** Does what comes after a save. */
  follow: (then: Then[]) => void;
}

interface SittingState {
  kept: Kept[];
  said: Said;
  question: Question | undefined;
}

const KEPT = 1_000;
/** A stopped entry comes back into the form only when nobody has typed for so long. */
const QUIET = 700;
const LOOK_EVERY = 100;
const STILL: Hands = {
  draw: (change) => change(),
  focus: () => {},
  focusLine: () => {},
  follow: () => {},
};

/**
 * One keyer's sitting at one form: the entry in the form, those on their way, those saved. It owns where each of them is, and
 * never pushes one under the hands of somebody who types another: the form turns to the next entry when a save is answered,
 * and what was stopped comes back when the form is free.
 */
export class Sitting extends Subscribable<SittingState> {
  readonly entry: Entry;
  readonly outbox: Outbox;
  private hands = STILL;
  private form: Form | undefined;
  private typedAt = 0;
  private readonly settling = new Map<string, (saved: boolean) => void>();
  private looking: ReturnType<typeof setInterval> | undefined;

  constructor(form: string) {
    super({ kept: [], said: { text: "", tone: "" }, question: undefined });
    this.entry = new Entry(form);
    this.outbox = new Outbox(form);
  }

  /** Goes by that version of the form from now on. */
  follow(form: Form, version: number | undefined) {
    this.form = form;
    const gone = this.entry.follow(form, version);
    if (gone.length > 0) this.say(`Not on this form any more, and not kept: ${gone.join(", ")}.`, "wait");
  }

  /** Works with those hands from now on. */
  take = (hands: Partial<Hands>) => {
    this.hands = { ...this.hands, ...hands };
  };

  /** Begins: what was kept from before is sent. It goes on until what it answers with is called. */
  begin(): () => void {
    this.outbox.start({ saved: this.saved, stopped: this.stopped, waiting: this.delayed });
    const unsubscribe = this.outbox.subscribe(this.watch);
    this.watch();
    this.focusFirst();
    return () => {
      unsubscribe();
      clearInterval(this.looking);
      this.outbox.stop();
    };
  }

  get fields(): FormField[] {
    return this.form ? fieldsOf(this.form) : [];
  }

  say = (text: string, tone: Said["tone"] = "") => this.set({ said: { text, tone } });

  /** A key was pressed in the form. */
  keyed = () => {
    this.typedAt = Date.now();
  };

  focusFirst = () => {
    if (this.form) this.hands.focus(firstField(this.form)?.column, true);
  };

  /** Begins the next entry in the form, now, so that the very next key lands in its first field. */
  turn = () => {
    this.hands.draw(() => this.entry.turn());
    this.focusFirst();
  };

  /** Sends the new entry in the form; the answer comes when it is known whether it stands. */
  send = (): Promise<boolean> => {
    const { pending } = this.entry.snapshot();
    const key =
      pending ??
      this.outbox.add(this.entry.sent, this.entry.version, {
        ...this.entry.beside,
        lines: this.entry.typedLines,
        work: this.entry.measure?.taken(this.entry.snapshot()),
      }).key;
    if (!pending) this.entry.await(key);
    return new Promise((resolve) => this.settling.set(key, resolve));
  };

  save = () => {
    if (this.entry.snapshot().pending) return;
    if (this.entry.blank) {
      this.say("Nothing is typed yet, so there is nothing to save.", "stop");
      this.focusFirst();
      return;
    }
    this.send();
  };

  /** Shows what is in the way of what was typed, with the cursor in the first field concerned. */
  showStops = (typed: Typed, stops: Finding[], message: string, lines?: Record<string, Typed[]>) => {
    this.hands.draw(() => this.entry.stopped(typed, stops, lines));
    this.entry.measure?.stopped(stops);
    const first = this.fields.find((field) =>
      stops.some((stop) => stop.field === field.column && !stop.lines),
    );
    const inLine = !first && stops.find(({ lines }) => lines);
    if (inLine) this.hands.focusLine(inLine.lines ?? "", (inLine.line ?? 1) - 1, inLine.field);
    else this.hands.focus((first ?? this.fields[0])?.column, false);
    const beyond = this.entry.beyond(typed);
    if (beyond.length > 0)
      this.say(`The form has no field any more for what was typed there: ${beyond.join(", ")}.`, "wait");
    // What only asks is said where it can be answered.
    else if (stops.length > 0 && stops.every(({ severity }) => severity === "ask"))
      this.say("Not saved yet: it is asked about.", "wait");
    else this.say(stops[0]?.message ?? message, "stop");
  };

  /** Where everything that is in the way only asks, the question is put. */
  put = (findings: Finding[], usual: string | undefined, answered: () => void) => {
    if (findings.length > 0 && findings.every((finding) => finding.severity === "ask"))
      this.set({ question: { findings, usual, answered } });
  };

  /** The question is answered, or given up. */
  asked = () => this.set({ question: undefined });

  /** Takes a saved entry into the tray. */
  keep = (record: StoredRecord) => {
    this.entry.saved = record.id;
    this.set({ kept: [{ record, at: Date.now(), taken: false }, ...this.state.kept].slice(0, KEPT) });
  };

  /** A saved entry was taken back, or put back as that record. */
  taken = (id: number, back?: StoredRecord) =>
    this.set({
      kept: this.state.kept.map((each) => {
        if (each.record.id !== id) return each;
        return back ? { ...each, record: back, taken: false } : { ...each, taken: true };
      }),
    });

  /** Does what comes after a save. */
  after = (then: Then[]) => this.hands.follow(then);

  /** Opens a stopped entry from the tray, unless another one stands in the form. */
  reopen = (stopped: Outgoing) => {
    if (this.entry.blank) this.bringBack(stopped);
    else this.say("Save or clear the entry in the form first.", "stop");
  };

  private saved = (sent: Outgoing, { then = [], ...record }: Saved) => {
    this.keep(record);
    this.say(`Saved in row ${record.row} · ${clock()}`, "ok");
    if (this.standsIn(sent)) this.turn();
    this.settle(sent.key, true);
    this.after(then);
  };

  private stopped = (sent: Outgoing) => {
    if (this.standsIn(sent)) this.bringBack(sent);
    else this.say("An earlier entry was stopped. It comes back when the form is free.", "stop");
    this.settle(sent.key, false);
  };

  private delayed = (sent: Outgoing) => {
    this.say("No connection. The entry is kept here and will be sent once.", "wait");
    if (this.standsIn(sent)) this.turn();
    this.settle(sent.key, true);
  };

  private standsIn(sent: Outgoing): boolean {
    return this.entry.snapshot().pending === sent.key;
  }

  private settle(key: string, saved: boolean) {
    this.settling.get(key)?.(saved);
    this.settling.delete(key);
  }

  private bringBack(stopped: Outgoing) {
    this.outbox.remove(stopped.key);
    this.showStops(stopped.typed, stopped.findings, stopped.message, stopped.lines ?? {});
    this.put(stopped.findings, stopped.usual, () => this.send());
  }

  /** Looks again and again, as long as something waits that was stopped. */
  private watch = () => {
    clearInterval(this.looking);
    if (this.stoppedOne()) this.looking = setInterval(this.look, LOOK_EVERY);
  };

  private stoppedOne = () => this.outbox.snapshot().find((each) => each.state === "stopped");

  /** Brings what was stopped back when the form is free. */
  private look = () => {
    const stopped = this.stoppedOne();
    if (!stopped || !this.entry.blank || this.entry.snapshot().pending) return;
    if (Date.now() - this.typedAt > QUIET) this.bringBack(stopped);
  };
}

function clock(): string {
  return new Date().toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
}
