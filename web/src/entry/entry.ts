import {
  type Assessment,
  answered,
  api,
  type Choice,
  type Finding,
  type Form,
  type FormField,
  type FormRules,
  type StoredRecord,
} from "../api/client";
import { fieldsOf } from "../form/items";
import type { Beside, Typed } from "./outbox";

/** What the form shows: a new entry, or a stored record with what is changed in it. */
export interface EntryState {
  /** The stored record in the form; a new entry when there is none. */
  record: StoredRecord | undefined;
  /** What the fields of the stored record held; what a new entry begins with. */
  base: Typed;
  typed: Typed;
  assessment: Assessment | undefined;
  /** Findings that the server gave at a save. */
  stops: Finding[];
  /** Fields that were left since the entry was begun; their findings show. */
  left: ReadonlySet<string>;
  /** The key of the save under way while its new entry still stands in the form. */
  pending: string | undefined;
  /** What was answered to what asks, by code or rule; it counts until something else is typed. */
  answers: Typed;
  /** Which record was chosen where several matched a fill. */
  chosen: Record<string, number>;
}

const ASSESS_AFTER = 80;
const BLANK: EntryState = {
  record: undefined,
  base: {},
  typed: {},
  assessment: undefined,
  stops: [],
  left: new Set(),
  pending: undefined,
  answers: {},
  chosen: {},
};

/**
 * What stands in the form, from its first key to its save. It changes at once, outside React, so that a key that comes
 * right after another always finds it as the other left it.
 */
export class Entry {
  private state = BLANK;
  private readonly subscribers = new Set<() => void>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private asking: AbortController | undefined;

  /** The published version of the form that is typed into. */
  version: number | undefined;
  private fields: FormField[] = [];
  private rules: FormRules | undefined;
  /** The record that was saved last in this sitting, for formulas that look back at it. */
  saved: number | undefined;
  /** What whoever opened the form gave new entries to begin with. */
  private given: Typed = {};
  /** What was typed when the last answer was asked for. */
  private read: Typed = {};
  /** What was typed into the last new entry that was sent, from which values stay. */
  private last: Typed = {};

  /** At that door; or `bench` when it is only tried out, by the rules of that form's working copy. */
  constructor(
    private readonly place: string,
    private readonly bench = false,
  ) {}

  /** From now on typed into by this version of the form; a blank entry begins anew by it. */
  follow(form: Form, version: number | undefined) {
    this.version = version;
    this.fields = fieldsOf(form);
    this.rules = form.rules;
    if (this.blank) this.turn();
  }

  /** New entries begin with these values from now on. */
  give(values: Typed) {
    this.given = values;
    if (this.blank) this.turn();
  }

  /** What a new entry begins with: what stays of the last one, and what fields begin with. */
  private start(): Typed {
    return Object.fromEntries(
      this.fields
        .map((field) => [
          field.column,
          this.given[field.column] ||
            (field.carried && this.last[field.column]?.trim()) ||
            field.begins ||
            "",
        ])
        .filter(([, text]) => text !== ""),
    );
  }

  subscribe = (subscriber: () => void) => {
    this.subscribers.add(subscriber);
    return () => {
      this.subscribers.delete(subscriber);
    };
  };

  snapshot = () => this.state;

  /** Whether rules say something of an entry before anything is typed in it. */
  private get works() {
    return (this.rules?.formulas.length ?? 0) > 0;
  }

  /** Whether it is a new entry with nothing typed. */
  get blank() {
    const { record, typed, base } = this.state;
    return (
      !record && Object.entries(typed).every(([column, text]) => text.trim() === (base[column] ?? "").trim())
    );
  }

  /** Whether there is something in it that is not stored. */
  get dirty() {
    return this.state.record ? Object.keys(changes(this.state)).length > 0 : !this.blank;
  }

  type(column: string, text: string) {
    if (this.state.pending) this.turn();
    const stops = this.state.stops.filter((finding) => finding.field !== column && finding.field !== "");
    const typed = { ...this.state.typed, [column]: text };
    const chosen = { ...this.state.chosen };
    // Another key brings in other values, in place of what was typed over the ones before.
    for (const fill of this.rules?.fills ?? []) {
      if (!fill.keys.some((key) => key.column === column)) continue;
      delete chosen[fill.id];
      for (const tie of fill.brings) {
        if (this.state.record) typed[tie.column] = this.state.base[tie.column] ?? "";
        else delete typed[tie.column];
      }
    }
    this.change({ typed, stops, chosen, answers: {} });
    this.assessSoon();
  }

  /** Takes one of several records that match a fill. */
  choose(fill: string, record: number) {
    this.change({ chosen: { ...this.state.chosen, [fill]: record }, stops: [] });
    this.assessSoon();
  }

  /** Answers what asks; the answers count until something else is typed. */
  answer(answers: Typed) {
    this.change({ answers: { ...this.state.answers, ...answers }, stops: [] });
  }

  /** What goes with the fields to the server. */
  get beside(): Beside {
    const { answers, chosen } = this.state;
    return { answers, chosen, last: this.saved };
  }

  leave(column: string) {
    const { pending, left, typed, base, assessment } = this.state;
    if (pending || left.has(column) || (typed[column] ?? "") === (base[column] ?? "")) return;
    // What was found while it was still being typed is not said of what stands there now; the next answer is on its way.
    const late = assessment && typed[column] !== this.read[column];
    this.change({
      left: new Set(left).add(column),
      ...(late && {
        assessment: { ...assessment, findings: assessment.findings.filter(({ field }) => field !== column) },
      }),
    });
  }

  /** The save of what stands here is under way. */
  await(key: string) {
    this.stopAssessing();
    this.last = this.state.typed;
    this.change({ pending: key });
  }

  /** The next entry begins: the form is clear. */
  turn() {
    this.stopAssessing();
    const start = this.start();
    this.state = { ...BLANK, base: start, typed: start };
    this.tell();
    if (Object.keys(start).length > 0 || this.works) this.assessSoon();
  }

  /** A stored record comes into the form; what is typed over it, if anything, stays to be saved. */
  show(record: StoredRecord, base: Typed, over: Typed = {}) {
    this.stopAssessing();
    this.state = { ...BLANK, record, base, typed: { ...base, ...over } };
    this.tell();
    if (this.dirty || this.works) this.assessSoon();
  }

  /** The change that was sent is stored; what was typed since stays to be saved. */
  stored(record: StoredRecord, base: Typed, sent: Typed) {
    const since = Object.entries(this.state.typed).filter(([column, text]) => text !== sent[column]);
    this.show(record, base, Object.fromEntries(since));
  }

  /** The record is as it is stored again. */
  putBack() {
    if (this.state.record) this.show(this.state.record, this.state.base);
  }

  /** Reads what is typed anew, since the rules may be others now. */
  again() {
    if (!this.blank || this.works) this.assessSoon();
  }

  /** What of a new entry is sent: what is typed, and where something was taken out. */
  get sent(): Typed {
    return this.state.typed;
  }

  /** An entry that was stopped stands in the form again, with what stopped it. */
  stopped(typed: Typed, stops: Finding[]) {
    this.stopAssessing();
    this.change({ typed, stops, pending: undefined, left: new Set(Object.keys(typed)) });
    this.assessSoon();
  }

  /** Those of a column's choice list that begin with what is typed. */
  list(column: string, typed: string): Promise<Choice[]> {
    const body = {
      typed,
      draft: { values: this.state.typed, version: this.bench ? undefined : this.version },
    };
    return answered(
      this.bench
        ? api.POST("/api/forms/{form}/bench/choices/{column}", {
            params: { path: { form: this.place, column } },
            body,
          })
        : api.POST("/api/doors/{door}/choices/{column}", {
            params: { path: { door: this.place, column } },
            body,
          }),
    );
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

  /** Reads what is typed right away. */
  async assess() {
    clearTimeout(this.timer);
    const asking = new AbortController();
    this.asking = asking;
    const { typed } = this.state;
    try {
      const body = {
        values: typed,
        ...this.beside,
        record: this.state.record?.id,
        version: this.bench ? undefined : this.version,
      };
      const { signal } = asking;
      const assessment = await answered(
        this.bench
          ? api.POST("/api/forms/{form}/bench/assess", {
              params: { path: { form: this.place } },
              body,
              signal,
            })
          : api.POST("/api/doors/{door}/assess", { params: { path: { door: this.place } }, body, signal }),
      );
      if (asking.signal.aborted) return;
      this.read = typed;
      this.change({ assessment });
    } catch {
      // Without an answer nothing is read back; the save decides in any case.
    }
  }
}

/** What the changed fields of a stored record held before. */
export function changes({ record, base, typed }: EntryState): Typed {
  if (!record) return {};
  return Object.fromEntries(
    Object.entries(base).filter(([column, text]) => (typed[column] ?? "").trim() !== text.trim()),
  );
}

/** What rules say of the fields. */
export function ruled({ assessment, chosen }: EntryState, entry: Entry) {
  return {
    fields: assessment?.fields ?? NO_FIELDS,
    shown: assessment?.shown ?? NO_TEXTS,
    offers: assessment?.offers ?? [],
    chosen,
    choose: (fill: string, record: number) => entry.choose(fill, record),
    list: (column: string, typed: string) => entry.list(column, typed),
  };
}

const NO_FIELDS: Assessment["fields"] = {};
const NO_TEXTS: Record<string, string> = {};

/** The findings to show: those of fields that were left, and those that stopped a save. */
export function shownFindings({ assessment, stops, left, typed, record }: EntryState): Finding[] {
  const stopped = new Set(stops.map((finding) => finding.field));
  const ofLeft = (assessment?.findings ?? []).filter(
    (finding) =>
      !stopped.has(finding.field) && left.has(finding.field) && (record || typed[finding.field]?.trim()),
  );
  return [...stops, ...ofLeft];
}
