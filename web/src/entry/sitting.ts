import type { Finding, Form, FormField, Saved, StoredRecord, Then } from "../api/client";
import { fieldsOf, firstField } from "../model/items";
import { Subscribable } from "../model/subscribable";
import { timeOf } from "../model/when";
import { Entry } from "./entry";
import { asks, Outbox, type Outgoing, type Typed } from "./outbox";

/** An entry saved in this sitting. */
export interface Kept {
  record: StoredRecord & Pick<Saved, "elsewhere">;
  at: number;
  /** Whether it was there before, and was changed or removed in this sitting. */
  older?: boolean;
  /** Whether it was taken back; it can be put back again. */
  taken: boolean;
}

/** What was last said to the keyer. */
export interface Said {
  text: string;
  tone: "" | "ok" | "stop" | "wait";
}

/**
 * What is in the way of what was to be saved. It stands in the form, and takes no key but its own: with any other one the entry
 * steps aside, and the key is the next entry's.
 */
export interface Question {
  /** The key of the new entry that it is about; nothing where it is about a stored record, or a button. */
  key?: string;
  findings: Finding[];
  message: string;
  usual: string | undefined;
  /** Saves it with those answers; nothing where something stops it. */
  answer: ((answers: Typed) => void) | undefined;
  /** Back into the entry, with the cursor where something is in the way. */
  back: () => void;
  /** What the next key does before it goes on. */
  aside: () => void;
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
  /** So many new entries more are saved; fewer where one was taken back. */
  counted: (entries: number) => void;
  /** Leaves a stored record that is in the form; says whether the form is free for a new entry. */
  free: () => Promise<boolean>;
}

interface SittingState {
  kept: Kept[];
  said: Said;
  question: Question | undefined;
}

const KEPT = 1_000;
const ELSEWHERE = "That entry was seen to in another window.";
const STILL: Hands = {
  draw: (change) => change(),
  focus: () => {},
  focusLine: () => {},
  follow: () => {},
  counted: () => {},
  free: async () => true,
};

/**
 * One keyer's sitting at one form: the entry in the form, those on their way, those saved. It owns where each of them is, and
 * never pushes one under the hands of somebody who types another: the form turns to the next entry when a save is answered or with
 * the next key, whatever comes first, and what was refused waits until its keyer asks for it.
 */
export class Sitting extends Subscribable<SittingState> {
  readonly entry: Entry;
  readonly outbox: Outbox;
  private hands = STILL;
  private form: Form | undefined;
  private begun = false;
  private readonly settling = new Map<string, (saved: boolean) => void>();

  constructor(form: string) {
    super({ kept: [], said: { text: "", tone: "" }, question: undefined });
    this.entry = new Entry(form);
    this.outbox = new Outbox(form);
  }

  /** Goes by that version of the form from now on. */
  follow(form: Form, version: number | undefined) {
    this.form = form;
    const gone = this.entry.follow(form, version);
    if (this.begun) this.entry.learnWanting();
    if (gone.length > 0) this.say(`Not on this form any more, and not kept: ${gone.join(", ")}.`, "wait");
  }

  /** Works with those hands from now on. */
  take = (hands: Partial<Hands>) => {
    this.hands = { ...this.hands, ...hands };
  };

  /** Begins: what was kept from before is sent. It goes on until what it answers with is called. */
  begin(): () => void {
    this.outbox.start({ saved: this.saved, stopped: this.stopped, waiting: this.delayed });
    // What was cleared is kept for its sitting only.
    for (const { key, state, left, findings } of this.outbox.snapshot())
      if (state === "aside" && !left && findings.length === 0) this.outbox.remove(key);
    this.begun = true;
    this.entry.learnWanting();
    this.focusFirst();
    return () => this.outbox.stop();
  }

  get fields(): FormField[] {
    return this.form ? fieldsOf(this.form) : [];
  }

  say = (text: string, tone: Said["tone"] = "") => this.set({ said: { text, tone } });

  focusFirst = () => {
    if (this.form) this.hands.focus(firstField(this.form)?.column, true);
  };

  /** Begins the next entry in the form, now, so that the very next key lands in its first field. */
  turn = () => {
    this.hands.draw(() => {
      this.settled();
      this.entry.turn();
    });
    this.focusFirst();
  };

  /**
   * A key is about to arrive in the form: what was sent from it, or refused, gives way, so that the key is the next entry's. Says
   * whether something did.
   */
  giveWay = (): boolean => {
    const { question } = this.state;
    if (question) question.aside();
    else if (this.entry.snapshot().pending) this.turn();
    else return false;
    return true;
  };

  /** Keeps the new entry in the form as it is, in the tray; the form is clear. */
  putAside = (left: boolean, refused: Partial<Outgoing> = {}) => {
    const { entry, outbox } = this;
    outbox.putAside(entry.sent, entry.version, {
      ...entry.beside,
      lines: entry.typedLines,
      seenLines: entry.seenLines,
      left,
      ...refused,
    });
    this.turn();
  };

  /** What was cleared last, where nothing was typed since. */
  get cleared(): Outgoing | undefined {
    const { pending } = this.entry.snapshot();
    const last = this.outbox.snapshot().at(-1);
    return this.entry.blank && !pending && last?.state === "aside" && !last.left ? last : undefined;
  }

  /** What was cleared stands in the form again. */
  undoClear = () => {
    if (this.cleared) this.takeBack(this.cleared);
  };

  /** What was left half typed stands in the form again, where that is free; says whether it does. */
  giveBack = (): boolean => {
    const left = this.outbox.snapshot().findLast((each) => each.left);
    if (!left || !this.entry.blank) return false;
    this.takeBack(left);
    return true;
  };

  /** Sends the new entry in the form; the answer comes when it is known whether it stands. */
  send = (): Promise<boolean> => {
    const { pending } = this.entry.snapshot();
    const key =
      pending ??
      this.outbox.add(this.entry.sent, this.entry.version, {
        ...this.entry.beside,
        lines: this.entry.typedLines,
        seenLines: this.entry.seenLines,
        work: this.entry.measure?.taken(this.entry.snapshot()),
      }).key;
    if (!pending) this.entry.await(key);
    return new Promise((resolve) => this.settling.set(key, resolve));
  };

  /**
   * Saves the new entry in the form.
   *
   * @param asItStands whether one in which nothing is typed is saved too, where the address has filled it in
   */
  save = (asItStands?: unknown) => {
    if (this.entry.snapshot().pending) return;
    if (this.entry.blank && !(asItStands && this.entry.begun)) {
      this.say(
        `Nothing is typed yet${this.entry.begun ? "; Ctrl+Enter saves it as it stands" : ", so there is nothing to save"}.`,
        "stop",
      );
      this.focusFirst();
      return;
    }
    const missing = this.entry.missing();
    if (missing.length > 0) {
      this.hands.draw(() => this.entry.refused(missing));
      this.entry.measure?.stopped(missing);
      this.toConcerned(missing);
      this.say(missing[0]?.message ?? "", "stop");
      return;
    }
    const findings = this.entry.unreadable();
    if (findings.length > 0) {
      const refused = { findings, message: findings[0]?.message ?? "", usual: undefined };
      // As where the server says so: the next key is the next entry's.
      const aside = () => this.putAside(false, { ...refused, state: "stopped" });
      this.refuse(refused, () => {}, aside);
      return;
    }
    this.send();
  };

  /** Puts the cursor where something is in the way. */
  private toConcerned(stops: Finding[]) {
    const first = this.fields.find((field) =>
      stops.some((stop) => stop.field === field.column && !stop.lines),
    );
    const inLine = !first && stops.find(({ lines }) => lines);
    if (inLine) this.hands.focusLine(inLine.lines ?? "", (inLine.line ?? 1) - 1, inLine.field);
    else this.hands.focus((first ?? this.fields[0])?.column, false);
  }

  /** Says what is in the way of what was to be saved, and stands in the form until it is answered. */
  ask = (question: Question) => {
    const { findings, message } = question;
    this.entry.measure?.stopped(findings);
    this.hands.draw(() => {
      this.entry.refused(findings);
      this.set({ question });
    });
    if (asks(findings)) this.say("Not saved yet: it is asked about.", "wait");
    else this.say(`Not saved. ${findings[0]?.message ?? message}`, "stop");
  };

  /** A stored record was not saved, or a button's steps not done: it is told where it stands, and the next key goes on in it. */
  refuse = (
    { findings, message, usual }: Pick<Question, "findings" | "message" | "usual">,
    again: () => void,
    aside?: () => void,
  ) =>
    this.ask({
      findings,
      message,
      usual,
      answer: asks(findings)
        ? (answers) => {
            this.settled();
            this.entry.answer(answers);
            again();
          }
        : undefined,
      back: () => {
        this.settled();
        this.toConcerned(findings);
      },
      aside: aside ?? this.settled,
    });

  /** Nothing is asked any more. */
  private settled = () => {
    if (this.state.question) this.set({ question: undefined });
  };

  /** What is asked about, the oldest first. */
  private askedAbout = () =>
    this.outbox.snapshot().filter(({ state, findings }) => state === "stopped" && asks(findings));

  /** Saves what is asked about so: what stands in the form, else the oldest in the tray. */
  sayYes = () => this.reply("yes");

  /** Answers no to what a step asks, likewise. */
  sayNo = () => this.reply("no");

  private reply(word: "yes" | "no") {
    const { question } = this.state;
    const [oldest] = this.askedAbout();
    const { findings = [] } = question ?? oldest ?? {};
    // Only a step's question can be answered with no.
    if (word === "no" && findings[0]?.code !== "question") return;
    const answers = answered(findings, word);
    if (question) question.answer?.(answers);
    else if (oldest) this.answerWith(oldest, answers);
    else this.say("Nothing is asked about just now.");
  }

  /** Saves all that ask the same as the oldest so. */
  sayYesToAll = () => {
    const asked = this.askedAbout();
    const same = asked.filter(({ findings }) => alike(findings) === alike(asked[0]?.findings ?? []));
    for (const each of same) this.answer(each, "yes");
  };

  /** Answers all that is asked about that entry with one word. */
  answer = (asked: Outgoing, word: "yes" | "no") => this.answerWith(asked, answered(asked.findings, word));

  private answerWith(asked: Outgoing, answers: Typed) {
    this.settled();
    if (!this.outbox.answer(asked.key, answers)) this.say(ELSEWHERE, "wait");
  }

  /** Back to what is in the way: of the entry in the form, else of the oldest that waits. Says whether there is one. */
  back = (): boolean => {
    const oldest = this.outbox.snapshot().find(({ state }) => state === "stopped" || state === "aside");
    if (this.state.question) this.state.question.back();
    else if (oldest) this.reopen(oldest);
    else return false;
    return true;
  };

  /** Takes a saved entry into the tray. */
  keep = (record: Kept["record"]) => {
    this.entry.saved = record.id;
    this.hands.counted(1);
    this.set({ kept: [{ record, at: Date.now(), taken: false }, ...this.state.kept].slice(0, KEPT) });
  };

  /** A stored record was changed, or removed. */
  touched = (record: Kept["record"], taken = false) => {
    const { kept } = this.state;
    const card = kept.find((each) => each.record.id === record.id);
    this.set({
      kept: card
        ? kept.map((each) => {
            if (each !== card) return each;
            const elsewhere = [...(card.record.elsewhere ?? []), ...(record.elsewhere ?? [])];
            return { ...card, record: { ...(taken ? card.record : record), elsewhere }, taken };
          })
        : [{ record, at: Date.now(), taken, older: true }, ...kept].slice(0, KEPT),
    });
  };

  /** A saved entry was taken back, or put back as that record. */
  taken = (id: number, back?: Kept["record"]) => {
    const card = this.state.kept.find(({ record }) => record.id === id);
    if (card && !card.older && card.taken === !!back) this.hands.counted(back ? 1 : -1);
    this.set({
      kept: this.state.kept.map((each) => {
        if (each.record.id !== id) return each;
        return back ? { ...each, record: back, taken: false } : { ...each, taken: true };
      }),
    });
  };

  /** Does what comes after a save. */
  after = (then: Then[]) => this.hands.follow(then);

  /** Takes an entry that waits back into the form; what is half typed there waits in its place. */
  reopen = async (waiting: Outgoing) => {
    if (!(await this.hands.free())) return;
    if (!this.entry.blank && !this.entry.snapshot().pending) this.putAside(true);
    this.takeBack(waiting);
  };

  private saved = (sent: Outgoing, { then = [], ...record }: Saved) => {
    this.keep(record);
    this.say(`Saved in row ${record.row} · ${timeOf(new Date())}`, "ok");
    if (this.standsIn(sent)) this.turn();
    this.settle(sent.key, true);
    this.after(then);
  };

  private stopped = (sent: Outgoing) => {
    const { key, findings, message, usual } = sent;
    if (this.standsIn(sent))
      this.ask({
        key,
        findings,
        message,
        usual,
        answer: asks(findings) ? (answers) => this.answerWith(sent, answers) : undefined,
        back: () => this.takeBack(sent),
        aside: () => {
          this.turn();
          this.say("An entry before was not saved. It waits in the tray.", "wait");
        },
      });
    else this.say("An entry before was not saved. It waits in the tray.", asks(findings) ? "wait" : "stop");
    this.settle(key, false);
  };

  private delayed = (sent: Outgoing, why: string) => {
    this.say(`${why} The entry is kept here and will be sent once.`, "wait");
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

  /** What waited stands in the form, to be typed in, with the cursor where something is in its way. */
  private takeBack(waiting: Outgoing) {
    const { key, typed, findings, lines, chosen } = waiting;
    if (!this.outbox.take(key)) return this.say(ELSEWHERE, "wait");
    this.hands.draw(() => {
      this.settled();
      this.entry.stopped(typed, findings, lines ?? {}, chosen);
    });
    this.toConcerned(findings);
    const beyond = this.entry.beyond(typed);
    if (beyond.length > 0)
      this.say(`The form has no field any more for what was typed there: ${beyond.join(", ")}.`, "wait");
    else
      this.say(findings[0]?.message ?? waiting.message, findings.length > 0 && !asks(findings) ? "stop" : "");
  }
}

/** That answer to each of them. */
const answered = (findings: Finding[], word: string): Typed =>
  Object.fromEntries(findings.map(({ rule, code }) => [rule || code, word]));

/** What they ask, in the words that are read. */
const alike = (findings: Finding[]) =>
  findings.map(({ rule, code, message }) => [rule, code, message].join()).join();
