import type { Finding, Schemas } from "../api/client";
import type { Counting, Entry, EntryState } from "./entry";

type Work = Schemas["WorkTaken"];
type OfField = Schemas["FieldTaken"];
type Counted = Required<{ [K in keyof OfField]: number }>;

/** A pause longer than this, in milliseconds, is none of the work. */
const PAUSE = 60_000;
const HELD = new Set(["Shift", "Control", "Alt", "Meta", "AltGraph", "CapsLock"]);
const NONE: Counted = { seconds: 0, stops: 0, asks: 0, despite: 0, again: 0, back: 0 };

/**
 * Counts how the entry in the form is keyed, while it is: how long in each field, how often stopped, asked or gone back. It looks
 * at keys and at where the cursor is, never at what is typed.
 */
export class Measure implements Counting {
  private fields: Record<string, Counted> = {};
  private rules: Record<string, { stops: number; asks: number; despite: number }> = {};
  private keys = 0;
  private seconds = 0;
  private hindered = false;
  /** Fields that stopped the last save, and were not typed into since. */
  private wrong = new Set<string>();
  private at: string | undefined;
  private since = 0;

  constructor(
    private readonly entry: Entry,
    private order: string[] = [],
    private readonly now: () => number = () => performance.now(),
  ) {}

  /** The fields in tab order from now on; what is counted of the entry stays. */
  follow(order: string[]) {
    this.order = order;
  }

  /** Begins to look at the page; answers what ends it. */
  watch(): () => void {
    const keyed = (e: KeyboardEvent) => this.key(fieldOf(e.target), e.key);
    const focused = (e: FocusEvent) => this.focus(fieldOf(e.target));
    // Before the keys of the Desk, which end a save that is under way.
    window.addEventListener("keydown", keyed, true);
    window.addEventListener("focusin", focused);
    return () => {
      window.removeEventListener("keydown", keyed, true);
      window.removeEventListener("focusin", focused);
    };
  }

  /** A key was pressed in a field. */
  key(column: string | undefined, key: string) {
    if (column === undefined || HELD.has(key) || this.entry.snapshot().record) return;
    if (this.entry.blank && !this.entry.snapshot().pending) this.begin();
    this.pass();
    this.at = column;
    this.keys++;
    if (this.wrong.has(column) && key.length === 1) {
      this.wrong.delete(column);
      this.of(column).again++;
    }
  }

  /** The cursor came into a field, or somewhere else. */
  focus(column: string | undefined) {
    const before = this.at;
    if (column === before) return;
    this.pass();
    this.at = column;
    if (before === undefined || column === undefined || this.entry.blank) return;
    if (this.order.indexOf(column) < this.order.indexOf(before)) this.of(before).back++;
  }

  /** A save was stopped, or asks. */
  stopped(findings: Finding[]) {
    this.hindered = true;
    for (const { field, severity, rule } of findings) {
      const what = severity === "ask" ? "asks" : "stops";
      if (field) this.of(field)[what]++;
      if (rule) this.ofRule(rule)[what]++;
      if (field && what === "stops") this.wrong.add(field);
    }
  }

  /** What was counted of the entry that is sent now. */
  taken({ typed, base, answers, assessment }: EntryState): Work | undefined {
    this.pass();
    if (this.keys === 0) return undefined;
    for (const [id, answer] of Object.entries(answers)) {
      if (answer !== "yes") continue;
      const asked = this.rules[id];
      if (asked && asked.despite < asked.asks) asked.despite++;
      for (const { field } of assessment?.findings.filter(({ rule, code }) => rule === id || code === id) ??
        []) {
        if (field && this.of(field).despite < this.of(field).asks) this.of(field).despite++;
      }
    }
    const keyed = Object.keys(typed).filter(
      (column) => typed[column]?.trim() && typed[column] !== base[column],
    );
    const last = Math.max(-1, ...keyed.map((column) => this.order.indexOf(column)));
    return {
      seconds: round(this.seconds),
      keys: this.keys,
      // Each value once, and a key from field to field; that of the save is counted on neither side.
      least: keyed.reduce((sum, column) => sum + (typed[column]?.length ?? 0), 0) + Math.max(0, last),
      hindered: this.hindered,
      fields: Object.fromEntries(
        Object.entries(this.fields).map(([column, counted]) => [
          column,
          { ...counted, seconds: round(counted.seconds) },
        ]),
      ),
      rules: this.rules,
    };
  }

  private begin() {
    this.fields = {};
    this.rules = {};
    this.keys = 0;
    this.seconds = 0;
    this.hindered = false;
    this.wrong = new Set();
    this.since = this.now();
  }

  /** The time since the last key or step was spent where the cursor is. */
  private pass() {
    const now = this.now();
    const spent = now - this.since;
    this.since = now;
    if (spent > PAUSE || this.at === undefined) return;
    this.seconds += spent / 1000;
    this.of(this.at).seconds += spent / 1000;
  }

  private of(column: string): Counted {
    const there = this.fields[column] ?? { ...NONE };
    this.fields[column] = there;
    return there;
  }

  private ofRule(id: string) {
    const there = this.rules[id] ?? { stops: 0, asks: 0, despite: 0 };
    this.rules[id] = there;
    return there;
  }
}

const round = (seconds: number) => Math.round(seconds * 1000) / 1000;

const fieldOf = (target: EventTarget | null): string | undefined => {
  const id = (target as HTMLElement | null)?.id ?? "";
  return id.startsWith("field-") ? id.slice("field-".length) : undefined;
};
