import { answered, api, type Finding, Problem, type Saved, type Schemas, Unreached } from "../api/client";
import { newKey } from "./key";
import { mine } from "./mine";

export type Typed = Record<string, string>;

/** An entry on its way to the server. It stays here, in the browser, until the server has answered. */
export interface Outgoing {
  /** The same for each time it is sent, so that it is written once. */
  key: string;
  typed: Typed;
  /** The published version of the form it was typed into. */
  version?: number;
  at: number;
  state: "sending" | "waiting" | "stopped";
  findings: Finding[];
  message: string;
  /** What was answered to what asks, by code or rule. */
  answers?: Typed;
  /** Which record was chosen where several matched a fill. */
  chosen?: Record<string, number>;
  /** Its lines as they were typed, by the id of the form's lines. */
  lines?: Record<string, Typed[]>;
  /** The record that was saved before it in the sitting. */
  last?: number;
  /** What Enter answers to the question that it waits for. */
  usual?: string;
  /** What was counted while it was keyed. */
  work?: Schemas["WorkTaken"];
}

/** What goes with the fields of an entry. */
export type Beside = Pick<Outgoing, "answers" | "chosen" | "last" | "lines" | "work">;

interface Hearer {
  saved: (outgoing: Outgoing, record: Saved) => void;
  stopped: (outgoing: Outgoing) => void;
  waiting: (outgoing: Outgoing) => void;
}

const ANSWER_WITHIN = 15_000;
const FIRST_PAUSE = 500;
const LONGEST_PAUSE = 5_000;

/**
 * Sends a form's entries one after another, in the order in which they were keyed. Each is kept in the browser's storage
 * until it is answered: a lost connection, a stopped server or a closed page delays an entry, and never loses or doubles it.
 */
export class Outbox {
  private all: Outgoing[] = [];
  private readonly subscribers = new Set<() => void>();
  private draining = false;
  private wake: () => void = () => {};
  private hearer: Hearer | undefined;

  constructor(private readonly door: string) {
    this.all = kept(door);
    window.addEventListener("online", () => this.wake());
  }

  subscribe = (subscriber: () => void) => {
    this.subscribers.add(subscriber);
    return () => this.subscribers.delete(subscriber);
  };

  /** What is not answered yet, in the order keyed. */
  snapshot = () => this.all;

  /** Begins to send, telling the hearer what comes of it. */
  start(hearer: Hearer) {
    this.hearer = hearer;
    this.drain();
  }

  stop() {
    this.hearer = undefined;
    this.wake();
  }

  /** Takes an entry and begins to send it; it is in the browser's storage when this returns. */
  add(typed: Typed, version: number | undefined, beside: Beside): Outgoing {
    const outgoing: Outgoing = {
      ...beside,
      key: newKey(),
      typed,
      version,
      at: Date.now(),
      state: "sending",
      findings: [],
      message: "",
    };
    localStorage.setItem(place(this.door, outgoing.key), JSON.stringify(outgoing));
    this.change([...this.all, outgoing]);
    this.wake();
    this.drain();
    return outgoing;
  }

  /** Takes an entry out, to be mended in the form. */
  remove(key: string) {
    localStorage.removeItem(place(this.door, key));
    this.change(this.all.filter((each) => each.key !== key));
  }

  private change(all: Outgoing[]) {
    this.all = all;
    for (const subscriber of this.subscribers) subscriber();
  }

  private update(key: string, changed: Partial<Outgoing>): Outgoing {
    const now = this.all.map((each) => (each.key === key ? { ...each, ...changed } : each));
    const outgoing = now.find((each) => each.key === key) as Outgoing;
    localStorage.setItem(place(this.door, key), JSON.stringify(outgoing));
    this.change(now);
    return outgoing;
  }

  private async drain() {
    if (this.draining) return;
    this.draining = true;
    let pause = FIRST_PAUSE;
    for (;;) {
      const next = this.all.find((each) => each.state !== "stopped");
      if (!next || !this.hearer) break;
      try {
        const record = await this.send(next);
        this.remove(next.key);
        this.hearer?.saved(next, record);
        pause = FIRST_PAUSE;
      } catch (e) {
        if (e instanceof Problem) {
          this.hearer?.stopped(
            this.update(next.key, {
              state: "stopped",
              findings: e.findings,
              message: e.message,
              usual: e.body.usual as string | undefined,
            }),
          );
        } else {
          for (const each of this.all.filter(({ state }) => state !== "stopped"))
            this.hearer?.waiting(this.update(each.key, { state: "waiting" }));
          await this.pause(pause);
          pause = Math.min(pause * 2, LONGEST_PAUSE);
        }
      }
    }
    this.draining = false;
  }

  private send(outgoing: Outgoing): Promise<Saved> {
    return answered(
      api.POST("/api/doors/{door}/records", {
        params: { path: { door: this.door }, header: { "Idempotency-Key": outgoing.key } },
        body: {
          values: outgoing.typed,
          version: outgoing.version,
          answers: outgoing.answers,
          chosen: outgoing.chosen,
          last: outgoing.last,
          work: outgoing.work,
          lines:
            outgoing.lines &&
            Object.fromEntries(
              Object.entries(outgoing.lines).map(([id, lines]) => [id, lines.map((values) => ({ values }))]),
            ),
        },
        signal: AbortSignal.timeout(ANSWER_WITHIN),
      }),
    ).catch((e) => {
      if (e instanceof Problem && e.status >= 500) return this.outcome(outgoing.key, e);
      throw e instanceof Problem ? e : new Unreached();
    });
  }

  /** A server that failed may have saved the entry all the same: that is asked by its key, and nothing is taken for granted. */
  private outcome(key: string, failure: Problem): Promise<Saved> {
    return answered(
      api.GET("/api/doors/{door}/saves/{key}", {
        params: { path: { door: this.door, key } },
        signal: AbortSignal.timeout(ANSWER_WITHIN),
      }),
    ).catch((e) => {
      throw e instanceof Problem && e.status === 404 ? failure : new Unreached();
    });
  }

  private pause(millis: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, millis);
      this.wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }
}

/** Forgets entries that were stopped, as where they are of somebody who has gone. */
export function forgetStopped() {
  for (const name of Object.keys(localStorage))
    if (
      name.startsWith(mine("outgoing")) &&
      JSON.parse(localStorage.getItem(name) ?? "{}").state === "stopped"
    )
      localStorage.removeItem(name);
}

const place = (door: string, key: string) => `${mine("outgoing")}${door} ${key}`;

function kept(door: string): Outgoing[] {
  return Object.keys(localStorage)
    .filter((name) => name.startsWith(place(door, "")))
    .map((name) => JSON.parse(localStorage.getItem(name) ?? "") as Outgoing)
    .sort((a, b) => a.at - b.at);
}
