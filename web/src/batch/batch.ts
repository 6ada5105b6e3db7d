import {
  type Assessment,
  answered,
  api,
  type BatchSaved,
  type Choice,
  type Finding,
  type LineAssessed,
  Problem,
  type Schemas,
} from "../api/client";
import { Assessing } from "../entry/assessing";
import { Delivery } from "../entry/delivery";
import { newKey } from "../entry/key";
import type { Typed } from "../entry/outbox";
import { seenIn } from "../entry/seen";
import { counted } from "../model/counted";
import type { Way } from "../model/shown";
import { Subscribable } from "../model/subscribable";
import type { Spread } from "./cells";
import type { GridModel } from "./model";
import { assessed } from "./progress";

/** A line as it is typed. Its id stays while lines come and go above it. */
export interface Line {
  id: number;
  typed: Typed;
}

/** Where a save of the lines is: nowhere, under way, or without a connection. */
export type Sending = "" | "sending" | "waiting";

export interface BatchState {
  /** What is keyed once for all lines. */
  same: Typed;
  /** The lines, a blank one always last. */
  lines: Line[];
  /** What is to be said of each line, by its id. */
  read: ReadonlyMap<number, LineAssessed>;
  /** What is to be said of what is the same. */
  readSame: Assessment | undefined;
  /** What the last save found, by the id of the line. */
  stops: ReadonlyMap<number, Finding[]>;
  /** Whether the lines are being checked as they stand now. */
  checking: boolean;
  /** How many of many lines are checked so far; none before the first word of it. */
  checked: number | undefined;
  sending: Sending;
  /** What asks, to be answered before all is saved, with the numbers of its lines. */
  question: Finding[];
  said: { text: string; tone: "" | "ok" | "stop" | "wait" };
}

/** Lines on their way: what is sent stays what it is, whatever is typed meanwhile, also through a reload. */
interface Sent {
  key: string;
  body: Schemas["BatchJson"];
}

interface Kept {
  same: Typed;
  lines: Typed[];
  /** Of a save that is not answered yet. */
  sent?: Sent;
}

type Saved = (saved: BatchSaved, lines: Typed[]) => void;

const ASSESS_AFTER = 80;
/** So many lines take a while to check: it is done once the keys pause. */
const MANY = 200;
const MANY_AFTER = 500;
/** So few lines are kept at every key; more of them once the keys pause, or when the page goes away. */
const FEW = 30;
const KEEP_AFTER = 300;
const ANSWER_WITHIN = 60_000;
/** The most lines that are saved at once. */
export const MOST = 5_000;

let nextId = 1;

const line = (typed: Typed): Line => ({ id: nextId++, typed });

/** The lines with one blank at the end, where the next is keyed. */
const ended = (lines: Line[]): Line[] =>
  lines.length < MOST && !(lines.length > 0 && blank(lines.at(-1))) ? [...lines, line({})] : lines;

export const blank = (line: Line | undefined) =>
  !line || Object.values(line.typed).every((text) => text.trim() === "");

/**
 * Many entries on their way to being saved as one: what is the same on all, and a line each. It changes at once, outside
 * React, is kept in the browser's storage until it is saved, and is sent under one key until it is answered.
 */
export class Batch extends Subscribable<BatchState> implements GridModel {
  private readonly assessing = new Assessing((signal) => this.check(signal));
  private readonly delivery = new Delivery(ANSWER_WITHIN);
  private keeping: ReturnType<typeof setTimeout> | undefined;
  private sent: Sent | undefined;
  private answers: Typed = {};
  /** What stood here before cells were pasted, until they are read. */
  private before: Line[] | undefined;
  /** The record that was saved last, for formulas that look back at it. */
  private last: number | undefined;
  version: number | undefined;
  /** How its form writes numbers. */
  way: Pick<Way, "decimalSign"> | undefined;
  saved: Saved = () => {};
  /** Told which line is the first that is in the way. */
  shows: (line: number, column: string) => void = () => {};

  /**
   * At that door.
   *
   * @param place where it is kept in the browser's storage; nowhere when it is empty
   * @param passing whether lines that pass are saved while the others stay
   */
  constructor(
    private readonly door: string,
    private readonly place: string,
    private readonly passing: boolean,
  ) {
    const kept: Kept | undefined = place ? JSON.parse(localStorage.getItem(place) ?? "null") : undefined;
    super({
      same: kept?.same ?? {},
      lines: ended((kept?.lines ?? []).map(line)),
      read: new Map(),
      readSame: undefined,
      stops: new Map(),
      checking: false,
      checked: undefined,
      sending: "",
      question: [],
      said: { text: "", tone: "" },
    });
    this.sent = kept?.sent;
  }

  /** Begins: what was under way when the page went away goes on. */
  begin() {
    window.addEventListener("pagehide", this.keep);
    if (this.sent) this.send();
    else if (!this.empty || Object.keys(this.state.same).length > 0) this.assessSoon();
  }

  end() {
    this.assessing.stop();
    window.removeEventListener("pagehide", this.keep);
    this.keep();
  }

  grid = () => this.state;

  /** Whether nothing is typed in any line. */
  get empty() {
    return this.state.lines.every(blank);
  }

  /** The lines in which something is typed, with their numbers from 1. */
  get typed(): { line: Line; number: number }[] {
    return this.state.lines.map((line, at) => ({ line, number: at + 1 })).filter(({ line }) => !blank(line));
  }

  typeSame = (column: string, text: string) => {
    this.changed({ same: { ...this.state.same, [column]: text }, stops: new Map() });
  };

  type(at: number, column: string, text: string) {
    const line = this.state.lines[at];
    if (!line || (line.typed[column] ?? "") === text) return;
    const lines = [...this.state.lines];
    lines[at] = { ...line, typed: { ...line.typed, [column]: text } };
    this.changed({ lines: ended(lines), stops: without(this.state.stops, line.id) });
  }

  /** A blank line in front of that one. */
  insert(at: number) {
    if (this.state.lines.length >= MOST) return this.say(`A batch has ${MOST} lines at most.`, "stop");
    this.changed({ lines: this.state.lines.toSpliced(at, 0, line({})) });
  }

  takeOut(at: number) {
    this.changed({ lines: ended(this.state.lines.toSpliced(at, 1)) });
  }

  /** The cell, or without a column the whole line, as in the line above. */
  asAbove(at: number, columns: string[]) {
    const above = this.state.lines[at - 1];
    if (!above) return;
    for (const column of columns) this.type(at, column, above.typed[column] ?? "");
  }

  /** Cells that were copied elsewhere, from that line on. */
  paste(at: number, { lines: cells, leftOut }: Spread) {
    // Lines that wait to be put right, or are on their way, are not written over: what is pasted comes before them.
    const waits = this.state.lines
      .slice(at, at + cells.length)
      .some((each) => !blank(each) && (this.state.sending || this.state.stops.has(each.id)));
    const room = Math.max(0, MOST - (waits ? this.typed.length : at));
    const taken = cells.slice(0, room);
    const lines = waits
      ? this.state.lines.toSpliced(at, 0, ...taken.map(() => line({})))
      : [...this.state.lines];
    taken.forEach((typed, n) => {
      const there = lines[at + n] ?? line({});
      lines[at + n] = { ...there, typed: { ...there.typed, ...typed } };
    });
    const beyond = cells.length - room;
    this.before = this.state.lines;
    this.changed({ lines: ended(lines), stops: waits ? this.state.stops : new Map() });
    this.say(
      [
        `${counted(cells.length, "line was", "lines were", this.way)} pasted.`,
        leftOut,
        beyond > 0 ? `A batch has ${MOST} lines at most; ${beyond} were left out.` : "",
      ]
        .join(" ")
        .trim(),
      leftOut || beyond > 0 ? "wait" : "",
    );
  }

  /** Gives up what was pasted, while it is being read. */
  giveUp() {
    if (!this.before || !this.state.checking) return;
    const before = this.before;
    this.before = undefined;
    this.changed({ lines: ended(before) });
    this.say("What was pasted was taken out again.");
  }

  clear() {
    this.changed({ lines: ended([]), stops: new Map(), read: new Map() });
    this.say("");
  }

  say(text: string, tone: BatchState["said"]["tone"] = "") {
    this.set({ said: { text, tone } });
  }

  /** Those of a column's choice list that begin with what is typed in that line. */
  list(at: number | undefined, column: string, typed: string): Promise<Choice[]> {
    const values = { ...this.state.same, ...(at === undefined ? {} : this.state.lines[at]?.typed) };
    return answered(
      api.POST("/api/doors/{door}/choices/{column}", {
        params: { path: { door: this.door, column } },
        body: { typed, draft: { values, version: this.version } },
      }),
    );
  }

  private changed(part: Partial<BatchState>) {
    this.answers = {};
    if (!this.state.sending) this.sent = undefined;
    // What is typed on is not what was asked about.
    this.set({ question: [], ...part });
    this.keepSoon();
    this.assessSoon();
  }

  private keepSoon() {
    clearTimeout(this.keeping);
    if (this.state.lines.length <= FEW) this.keep();
    else this.keeping = setTimeout(() => this.keep(), KEEP_AFTER);
  }

  private keep = () => {
    clearTimeout(this.keeping);
    if (!this.place) return;
    const { same, lines } = this.state;
    if (this.empty && !this.sent && Object.values(same).every((text) => !text)) {
      localStorage.removeItem(this.place);
      return;
    }
    const kept: Kept = {
      same,
      lines: lines.slice(0, blank(lines.at(-1)) ? -1 : undefined).map((line) => line.typed),
      sent: this.sent,
    };
    try {
      localStorage.setItem(this.place, JSON.stringify(kept));
    } catch {
      this.say("The browser has no room to keep these lines through a reload. Save them soon.", "wait");
    }
  };

  private get body() {
    const { same, lines } = this.state;
    return {
      same,
      lines: lines.map(({ typed }) => ({ values: typed })),
      version: this.version,
      last: this.last,
      keep: (this.passing ? "passing" : "all") as Schemas["DoorKeep"],
    };
  }

  /** The lines with what fills had brought where something else was typed. */
  private get seen() {
    const { lines, read } = this.state;
    return lines.map(({ id, typed }) => ({ values: typed, seen: seenIn(typed, read.get(id)) }));
  }

  private assessSoon() {
    this.assessing.stop();
    this.set({ checking: true, checked: undefined });
    this.assessing.soon(this.state.lines.length > MANY ? MANY_AFTER : ASSESS_AFTER);
  }

  /** Reads all of it anew, since others wrote to the table or the rules are others now. */
  again() {
    if (!this.empty && !this.state.sending) this.assessSoon();
  }

  /** Reads all of it right away. */
  assess(): Promise<void> {
    return this.assessing.now();
  }

  private async check(signal: AbortSignal) {
    const { lines, same } = this.state;
    const params = { path: { door: this.door } };
    try {
      const [whole, readSame] = await Promise.all([
        lines.length > MANY
          ? assessed(this.door, this.body, signal, (checked) => signal.aborted || this.set({ checked }))
          : answered(api.POST("/api/doors/{door}/batches/assess", { params, body: this.body, signal })),
        answered(
          api.POST("/api/doors/{door}/assess", {
            params,
            body: { values: same, version: this.version },
            signal,
          }),
        ),
      ]);
      if (signal.aborted) return;
      this.before = undefined;
      const read = new Map(
        whole.lines.flatMap((said) => {
          const line = lines[said.line - 1];
          return line ? [[line.id, said] as const] : [];
        }),
      );
      this.set({ read, readSame, checking: false });
    } catch (e) {
      if (signal.aborted) return;
      this.set({ checking: false });
      if (e instanceof Problem) this.say(e.message, "stop");
    }
  }

  /** Saves the lines; `answers` to what was asked. */
  save(answers: Typed = {}) {
    if (this.state.sending) return;
    if (this.empty) return this.say("Nothing is typed in any line yet.", "stop");
    this.answers = { ...this.answers, ...answers };
    this.sent ??= { key: newKey(), body: { ...this.body, lines: this.seen, answers: this.answers } };
    this.keep();
    this.send();
  }

  /** Saves what is asked about so. */
  sayYes() {
    const { question } = this.state;
    if (question.length > 0)
      this.save(Object.fromEntries(question.map(({ rule, code }) => [rule || code, "yes"])));
  }

  /** What asks is gone back from. */
  goBack() {
    this.set({ question: [] });
    this.say("Nothing was saved yet.");
  }

  /** Sends the lines under their key until they are answered. */
  private async send() {
    if (!this.sent) return;
    const { key, body } = this.sent;
    this.assessing.stop();
    const lines = sentFrom(this.state.lines, body);
    const params = { path: { door: this.door }, header: { "Idempotency-Key": key } };
    this.set({ sending: "sending", question: [], checking: false });
    try {
      const saved = await this.delivery.of({
        send: (signal) => answered(api.POST("/api/doors/{door}/batches", { params, body, signal })),
        waiting: (why) => {
          this.set({ sending: "waiting" });
          this.say(`${why} The lines are kept here and will be sent once.`, "wait");
        },
      });
      if (!saved) return;
      this.sent = undefined;
      this.done(saved, lines);
    } catch (e) {
      if (!(e instanceof Problem)) throw e;
      // A server that failed each time may have saved them all the same: sent again, they are the same lines still.
      if (e.status < 500) this.sent = undefined;
      this.stopped(e, lines);
    }
  }

  private done({ rows, left }: BatchSaved, lines: Line[]) {
    const gone = new Map(
      rows.map(({ line, row }) => [lines[line - 1]?.id, { row, as: lines[line - 1]?.typed }]),
    );
    const stay = this.state.lines.filter((line) => !same(line.typed, gone.get(line.id)?.as));
    // What was typed over a line while it was on its way is not lost, and not taken for another entry unseen.
    const over = stay.flatMap((line) => pair(line, savedAlready(gone.get(line.id)?.row)));
    this.last = rows.at(-1)?.id;
    this.answers = {};
    this.set({
      sending: "",
      lines: ended(stay.filter((line) => !blank(line))),
      read: new Map(),
      stops: new Map([...left.flatMap(({ line, findings }) => pair(lines[line - 1], findings)), ...over]),
    });
    this.keep();
    const told = [
      left.length > 0 ? `${counted(left.length, "line", "lines", this.way)} stayed, to be put right` : "",
      over.length > 0
        ? `${counted(over.length, "line", "lines", this.way)} typed over meanwhile ${over.length === 1 ? "stays" : "stay"}`
        : "",
    ].filter(Boolean);
    const saved = `Saved ${counted(rows.length, "line", "lines", this.way)} in ${inRows(rows.map(({ row }) => row))}`;
    if (told.length > 0) this.say(`${[saved, ...told].join("; ")}.`, "wait");
    else this.say(saved, "ok");
    this.saved(
      { rows, left },
      rows.map(({ line }) => lines[line - 1]?.typed ?? {}),
    );
    if (left.length === 0) return;
    this.assessSoon();
    // Who keys on meanwhile keeps the cursor.
    const first = lines[(left[0]?.line ?? 0) - 1];
    const on = over.length > 0 || stay.some((each) => !blank(each) && !lines.includes(each));
    const at = this.state.lines.findIndex((each) => each.id === first?.id);
    if (!on && at >= 0) this.shows(at, left[0]?.findings[0]?.field ?? "");
  }

  private stopped(problem: Problem, lines: Line[]) {
    const findings = problem.findings;
    const stops = new Map<number, Finding[]>();
    for (const finding of findings) {
      const line = lines[(finding.line ?? 0) - 1];
      if (line) stops.set(line.id, [...(stops.get(line.id) ?? []), finding]);
    }
    const asks = findings.length > 0 && findings.every(({ severity }) => severity === "ask");
    this.set({ sending: "", stops, question: asks ? findings : [] });
    this.keep();
    this.say(asks ? "Not saved yet: it is asked about." : problem.message, asks ? "wait" : "stop");
    const first = findings.find(({ severity }) => severity === "stop");
    if (first?.line) this.shows(first.line - 1, first.field);
  }
}

const pair = (line: Line | undefined, findings: Finding[]) =>
  line && findings.length > 0 ? [[line.id, findings] as const] : [];

const same = (one: Typed, other: Typed | undefined) =>
  other !== undefined &&
  [...Object.keys(one), ...Object.keys(other)].every(
    (column) => (one[column] ?? "") === (other[column] ?? ""),
  );

/** The lines that were sent: those that stand here still, and what has been changed or taken out since as it was. */
function sentFrom(lines: Line[], { lines: sent }: Schemas["BatchJson"]): Line[] {
  let at = 0;
  return sent.map(({ values }) => {
    const found = lines.findIndex((each, n) => n >= at && same(each.typed, values as Typed));
    if (found < 0) return line(values as Typed);
    at = found + 1;
    return lines[found] ?? line({});
  });
}

/** What is said of a line that was typed over while it was on its way. */
const savedAlready = (row: number | undefined): Finding[] =>
  row === undefined
    ? []
    : [
        {
          field: "",
          code: "stale",
          severity: "ask",
          rule: "",
          message: `This line was saved in row ${row} as it stood before. Change it there, and take it out here.`,
        },
      ];

/** "row 7", "rows 7 to 12", or "rows 7, 9 and more" where they do not follow each other. */
export function inRows(rows: number[]): string {
  const [first, last] = [rows[0], rows.at(-1)];
  if (first === undefined || last === undefined) return "no row";
  if (rows.length === 1) return `row ${first}`;
  if (last - first === rows.length - 1) return `rows ${first} to ${last}`;
  return rows.length <= 6 ? `rows ${rows.join(", ")}` : `${rows.length} rows from ${first} to ${last}`;
}

function without(stops: ReadonlyMap<number, Finding[]>, id: number): ReadonlyMap<number, Finding[]> {
  if (!stops.has(id)) return stops;
  const left = new Map(stops);
  left.delete(id);
  return left;
}
