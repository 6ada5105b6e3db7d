import { type Assessment, answered, api, type Finding } from "../api/client";
import type { Typed } from "./outbox";

/** What the form shows of the entry in it. */
export interface EntryState {
  typed: Typed;
  assessment: Assessment | undefined;
  /** Findings that the server gave at a save. */
  stops: Finding[];
  /** Fields that were left since the entry was begun; their findings show. */
  left: ReadonlySet<string>;
  /** The key of the save under way while its entry still stands in the form. */
  pending: string | undefined;
}

const ASSESS_AFTER = 80;
const BLANK: EntryState = {
  typed: {},
  assessment: undefined,
  stops: [],
  left: new Set(),
  pending: undefined,
};

/**
 * The entry in the form, from its first key to its save. It changes at once, outside React, so that a key that comes
 * right after another always finds it as the other left it.
 */
export class Entry {
  private state = BLANK;
  private readonly subscribers = new Set<() => void>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private asking: AbortController | undefined;

  constructor(private readonly form: string) {}

  subscribe = (subscriber: () => void) => {
    this.subscribers.add(subscriber);
    return () => this.subscribers.delete(subscriber);
  };

  snapshot = () => this.state;

  get blank() {
    return Object.values(this.state.typed).every((text) => text.trim() === "");
  }

  type(column: string, text: string) {
    if (this.state.pending) this.turn();
    const stops = this.state.stops.filter((finding) => finding.field !== column);
    this.change({ typed: { ...this.state.typed, [column]: text }, stops });
    this.assessSoon();
  }

  leave(column: string) {
    if (this.state.pending || this.state.left.has(column) || !this.state.typed[column]) return;
    this.change({ left: new Set(this.state.left).add(column) });
  }

  /** The save of what stands here is under way. */
  await(key: string) {
    this.stopAssessing();
    this.change({ pending: key });
  }

  /** The next entry begins: the form is clear. */
  turn() {
    this.stopAssessing();
    this.state = BLANK;
    this.tell();
  }

  /** An entry that was stopped stands in the form again, with what stopped it. */
  stopped(typed: Typed, stops: Finding[]) {
    this.stopAssessing();
    this.change({ typed, stops, pending: undefined, left: new Set(Object.keys(typed)) });
    this.assessSoon();
  }

  private change(changed: Partial<EntryState>) {
    this.state = { ...this.state, ...changed };
    this.tell();
  }

  private tell() {
    for (const subscriber of this.subscribers) subscriber();
  }

  private stopAssessing() {
    clearTimeout(this.timer);
    this.asking?.abort();
  }

  private assessSoon() {
    this.stopAssessing();
    this.timer = setTimeout(() => this.assess(), ASSESS_AFTER);
  }

  private async assess() {
    const asking = new AbortController();
    this.asking = asking;
    try {
      const assessment = await answered(
        api.POST("/api/forms/{form}/assess", {
          params: { path: { form: this.form } },
          body: { values: this.state.typed },
          signal: asking.signal,
        }),
      );
      if (!asking.signal.aborted) this.change({ assessment });
    } catch {
      // Without an answer nothing is read back; the save decides in any case.
    }
  }
}

/** The findings to show: those of fields that were left, and those that stopped a save. */
export function shownFindings({ assessment, stops, left, typed }: EntryState): Finding[] {
  const stopped = new Set(stops.map((finding) => finding.field));
  const ofLeft = (assessment?.findings ?? []).filter(
    (finding) => !stopped.has(finding.field) && left.has(finding.field) && typed[finding.field]?.trim(),
  );
  return [...stops, ...ofLeft];
}
