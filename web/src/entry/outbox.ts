import { answered, api, type Finding, Problem, type Saved, type Schemas } from "../api/client";
import { Subscribable } from "../model/subscribable";
import { Delivery } from "./delivery";
import { newKey } from "./key";
import { mine } from "./mine";

export type Typed = Record<string, string>;

/**
 * An entry on its way to the server, or that waits for its keyer. It stays here, in the browser, until the server has saved it or its
 * keyer takes it back into the form.
 */
export interface Outgoing {
  /** The same for each time it is sent, so that it is written once. */
  key: string;
  typed: Typed;
  /** The published version of the form it was typed into. */
  version?: number;
  at: number;
  /** What was refused or asked about is `stopped`; what was cleared or left half typed is `aside`, and is never sent. */
  state: "sending" | "waiting" | "stopped" | "aside";
  findings: Finding[];
  message: string;
  /** What was answered to what asks, by code or rule. */
  answers?: Typed;
  /** Which record was chosen where several matched a fill. */
  chosen?: Record<string, number>;
  /** What fills had brought where something else was typed, by column. */
  seen?: Typed;
  /** Its lines as they were typed, by the id of the form's lines. */
  lines?: Record<string, Typed[]>;
  /** What fills had brought into lines where something else was typed. */
  seenLines?: Record<string, (Typed | undefined)[]>;
  /** The record that was saved before it in the sitting. */
  last?: number;
  /** Whether it was left half typed, as for a look at another record, and comes back with the next new entry. */
  left?: boolean;
  /** The usual answer to the question that it waits for. */
  usual?: string;
  /** What was counted while it was keyed. */
  work?: Schemas["WorkTaken"];
}

/** What goes with the fields of an entry. */
export type Beside = Pick<Outgoing, "answers" | "chosen" | "seen" | "last" | "lines" | "seenLines" | "work">;

interface Hearer {
  saved: (outgoing: Outgoing, record: Saved) => void;
  stopped: (outgoing: Outgoing) => void;
  waiting: (outgoing: Outgoing, why: string) => void;
}

const ANSWER_WITHIN = 15_000;

/**
 * Sends a form's entries one after another, in the order in which they were keyed. Each is kept in the browser's storage
 * until it is answered: a lost connection, a stopped server or a closed page delays an entry, and never loses or doubles it.
 */
export class Outbox extends Subscribable<Outgoing[]> {
  private readonly delivery = new Delivery(ANSWER_WITHIN);
  private draining = false;
  private hearer: Hearer | undefined;

  constructor(private readonly door: string) {
    super(kept(door));
  }

  /** Begins to send, telling the hearer what comes of it. */
  start(hearer: Hearer) {
    this.hearer = hearer;
    this.drain();
  }

  stop() {
    this.hearer = undefined;
    this.delivery.stop();
  }

  /** Takes an entry and begins to send it; it is in the browser's storage when this returns. */
  add(typed: Typed, version: number | undefined, beside: Beside): Outgoing {
    const outgoing = this.keep(typed, version, { ...beside, state: "sending" });
    this.delivery.wake();
    this.drain();
    return outgoing;
  }

  /** Keeps what was typed without sending it. */
  putAside(typed: Typed, version: number | undefined, more: Partial<Outgoing>): Outgoing {
    return this.keep(typed, version, more);
  }

  private keep(typed: Typed, version: number | undefined, more: Partial<Outgoing>): Outgoing {
    const outgoing: Outgoing = {
      key: newKey(),
      typed,
      version,
      at: Date.now(),
      state: "aside",
      findings: [],
      message: "",
      ...more,
    };
    localStorage.setItem(place(this.door, outgoing.key), JSON.stringify(outgoing));
    this.become([...this.state, outgoing]);
    return outgoing;
  }

  /** Sends what was asked about once more, with those answers, under the same key; says whether it waited for them still. */
  answer(key: string, answers: Typed): boolean {
    const asked = this.state.find((each) => each.key === key);
    if (asked?.state !== "stopped" || !this.still(key)) return false;
    this.update(key, { state: "sending", findings: [], answers: { ...asked.answers, ...answers } });
    this.delivery.wake();
    this.drain();
    return true;
  }

  /** Takes an entry out, to be mended in the form; says whether it waited still. */
  take(key: string): boolean {
    const there = this.still(key);
    this.remove(key);
    return there;
  }

  /** Whether it waits still: another window of the same browser may have seen to it. */
  private still(key: string): boolean {
    const there = localStorage.getItem(place(this.door, key)) !== null;
    if (!there) this.remove(key);
    return there;
  }

  /** Takes an entry out. */
  remove(key: string) {
    localStorage.removeItem(place(this.door, key));
    this.become(this.state.filter((each) => each.key !== key));
  }

  private update(key: string, changed: Partial<Outgoing>): Outgoing {
    const now = this.state.map((each) => (each.key === key ? { ...each, ...changed } : each));
    const outgoing = now.find((each) => each.key === key) as Outgoing;
    localStorage.setItem(place(this.door, key), JSON.stringify(outgoing));
    this.become(now);
    return outgoing;
  }

  private async drain() {
    if (this.draining) return;
    this.draining = true;
    while (this.hearer) {
      const next = this.state.find(goes);
      if (!next) break;
      try {
        const record = await this.delivery.of({
          send: (signal) => this.send(next, signal),
          outcome: (signal) => this.outcome(next.key, signal),
          waiting: (why) => this.wait(why),
        });
        if (!record) continue;
        this.remove(next.key);
        this.hearer?.saved(next, record);
      } catch (e) {
        if (!(e instanceof Problem)) throw e;
        this.hearer?.stopped(
          this.update(next.key, {
            state: "stopped",
            findings: e.findings,
            message: e.message,
            usual: e.body.usual as string | undefined,
          }),
        );
      }
    }
    this.draining = false;
  }

  /** None of them gets through just now. */
  private wait(why: string) {
    for (const each of this.state.filter(goes))
      this.hearer?.waiting(this.update(each.key, { state: "waiting" }), why);
  }

  private send(outgoing: Outgoing, signal: AbortSignal): Promise<Saved> {
    return answered(
      api.POST("/api/doors/{door}/records", {
        params: { path: { door: this.door }, header: { "Idempotency-Key": outgoing.key } },
        body: {
          values: outgoing.typed,
          version: outgoing.version,
          answers: outgoing.answers,
          chosen: outgoing.chosen,
          seen: outgoing.seen,
          last: outgoing.last,
          work: outgoing.work,
          lines:
            outgoing.lines &&
            Object.fromEntries(
              Object.entries(outgoing.lines).map(([id, lines]) => [
                id,
                lines.map((values, at) => ({ values, seen: outgoing.seenLines?.[id]?.[at] })),
              ]),
            ),
        },
        signal,
      }),
    );
  }

  private outcome(key: string, signal: AbortSignal): Promise<Saved> {
    return answered(
      api.GET("/api/doors/{door}/saves/{key}", { params: { path: { door: this.door, key } }, signal }),
    );
  }
}

/** Whether it is sent when its turn comes. */
const goes = ({ state }: Outgoing) => state === "sending" || state === "waiting";

/** Whether all that is in its way only asks. */
export const asks = (findings: Finding[]) =>
  findings.length > 0 && findings.every(({ severity }) => severity === "ask");

/** Forgets entries that wait for their keyer, as where they are of somebody who has gone. */
export function forgetStopped() {
  for (const name of Object.keys(localStorage))
    if (name.startsWith(mine("outgoing")) && !goes(JSON.parse(localStorage.getItem(name) ?? "{}")))
      localStorage.removeItem(name);
}

/** How many entries of this keyer wait in this browser, by a door, to be answered or put right. */
export const unanswered = (door: string) => kept(door).filter(({ state }) => state === "stopped").length;

const place = (door: string, key: string) => `${mine("outgoing")}${door} ${key}`;

function kept(door: string): Outgoing[] {
  return Object.keys(localStorage)
    .filter((name) => name.startsWith(place(door, "")))
    .map((name) => JSON.parse(localStorage.getItem(name) ?? "") as Outgoing)
    .sort((a, b) => a.at - b.at);
}
