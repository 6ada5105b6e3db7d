import {
  type Assessment,
  answered,
  api,
  type Choice,
  type Finding,
  type Form,
  type FormField,
  type FormRules,
  type Ruled,
  type Schemas,
  type StoredRecord,
} from "../api/client";
import { fieldsOf } from "../model/items";
import { isLink } from "../model/shown";
import { Subscribable } from "../model/subscribable";
import { Assessing } from "./assessing";
import type { Beside, Typed } from "./outbox";
import { seenIn } from "./seen";
import {
  blankLine,
  changedLines,
  ended,
  type FormLines,
  type LineDraft,
  type Lines,
  linesOf,
  newLine,
  type SheetLine,
  sentLines,
  stopsOf,
  storedLines,
  withDraft,
} from "./sheet";

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
  /** By the rule that found it nearly the same as others: what its fields held when it was said to be a new one. */
  isNew: Typed;
  /** Which record was chosen where several matched a fill. */
  chosen: Record<string, number>;
  /** The record's lines, by the id of the form's lines. */
  lines: Lines;
  /** What is to be said of each line, by its id. */
  readLines: ReadonlyMap<number, Schemas["LineSaid"]>;
  /** What the last save found in lines, by their ids; of all of them together under 0. */
  lineStops: ReadonlyMap<number, Finding[]>;
}

/** Counts how an entry is keyed: what is to be sent of it, and whom it is told of a save that was stopped. */
export interface Counting {
  follow: (order: string[]) => void;
  watch: () => () => void;
  taken: (state: EntryState) => Schemas["WorkTaken"] | undefined;
  stopped: (findings: Finding[]) => void;
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
  isNew: {},
  chosen: {},
  lines: {},
  readLines: new Map(),
  lineStops: new Map(),
};

/**
 * What stands in the form, from its first key to its save. It changes at once, outside React, so that a key that comes
 * right after another always finds it as the other left it.
 */
export class Entry extends Subscribable<EntryState> {
  private readonly assessing = new Assessing((signal) => this.read(signal));

  /** By the id of the form's lines: puts the cursor into a cell of them. */
  readonly cursors = new Map<string, (at: number, column: string) => void>();

  /** Counts how the entry is keyed, once it is there. */
  measure: Counting | undefined;

  /** The published version of the form that is typed into. */
  version: number | undefined;
  private fields: FormField[] = [];
  private items: FormLines[] = [];
  private decimalSign: Form["decimalSign"] = "point";
  private rules: FormRules | undefined;
  /** The record that was saved last in this sitting, for formulas that look back at it. */
  saved: number | undefined;
  /** What whoever opened the form gave new entries to begin with. */
  private given: Typed = {};
  /** What was typed when the last answer was asked for. */
  private told: Typed = {};
  /** What a new entry lacks before anything is typed, as it was told beforehand. */
  private wanting: Finding[] = [];
  /** What is known of each field beforehand, by column. */
  known: Ruled = {};
  /** What was typed into the last new entry that was sent, from which values stay. */
  private last: Typed = {};

  /** At that door; or `bench` when it is only tried out, by the rules of that form's working copy. */
  constructor(
    protected readonly place: string,
    private readonly bench = false,
  ) {
    super(BLANK);
  }

  /** Has what is typed read. */
  protected ask(body: Schemas["DraftJson"], signal: AbortSignal): Promise<Assessment> {
    return answered(
      this.bench
        ? api.POST("/api/forms/{form}/bench/assess", { params: { path: { form: this.place } }, body, signal })
        : api.POST("/api/doors/{door}/assess", { params: { path: { door: this.place } }, body, signal }),
    );
  }

  /**
   * From now on typed into by this version of the form; a blank entry begins anew by it. What was typed into fields that it does not
   * have is taken out, and said.
   */
  follow(form: Form, version: number | undefined): string[] {
    const before = this.fields;
    this.version = version;
    this.fields = fieldsOf(form);
    this.items = linesOf(form);
    this.rules = form.rules;
    this.decimalSign = form.decimalSign;
    if (this.blank) {
      this.turn();
      return [];
    }
    const { typed, base } = this.state;
    this.set({ typed: this.only(typed), stops: this.state.stops.filter(({ code }) => code !== "gone") });
    if (before.length > 0) this.assessSoon();
    return before
      .filter(
        ({ column }) => !this.has(column) && (typed[column] ?? "").trim() !== (base[column] ?? "").trim(),
      )
      .map(({ label, column }) => `${label} (${typed[column]?.trim()})`);
  }

  /** What of that is typed into fields of the form. */
  private only(typed: Typed): Typed {
    return Object.fromEntries(Object.entries(typed).filter(([column]) => this.has(column)));
  }

  private has(column: string) {
    return this.fields.some((field) => field.column === column);
  }

  /** Whether what stopped it speaks of fields that this version of the form does not have, or does not have any more. */
  get outgrown() {
    return this.state.stops.some(
      ({ code, field, lines }) => code === "gone" || (field !== "" && !lines && !this.has(field)),
    );
  }

  /** Asks once what an entry with nothing in it lacks, so that this is known at a save without asking. */
  async learnWanting() {
    const { version } = this;
    const { signal } = new AbortController();
    const read = await this.ask({ values: {}, version }, signal).catch(() => undefined);
    if (read && version === this.version)
      this.wanting = read.findings.filter(({ code, lines, rule }) => code === "required" && !lines && !rule);
  }

  /** What a new entry lacks for sure: fields that must be filled, are empty, and that no rule fills or does without. */
  missing(): Finding[] {
    const { typed, record } = this.state;
    return this.wanting.filter(
      ({ field }) => !record && this.has(field) && !typed[field]?.trim() && !this.ruled(field),
    );
  }

  /** What of a new entry is known to be unreadable before anybody has read it, in fields that no rule decides about. */
  unreadable(): Finding[] {
    const { typed, record } = this.state;
    return this.fields.flatMap(({ column }): Finding[] => {
      const text = typed[column]?.trim() ?? "";
      const known = this.known[column]?.unreadable;
      if (record || !known || !text || this.ruled(column) || new RegExp(known.readable, "iu").test(text))
        return [];
      const message = known.words.replace("{typed}", () => text);
      return [{ field: column, code: "unreadable", severity: "stop", message, rule: "" }];
    });
  }

  private ruled(column: string): boolean {
    const { formulas = [], fills = [] } = this.rules ?? {};
    return (
      formulas.some(({ target }) => target === column) ||
      fills.some(({ brings }) => brings.some((tie) => tie.column === column))
    );
  }

  /** New entries begin with these values from now on. */
  give(values: Typed) {
    this.given = values;
    if (this.blank) this.turn();
  }

  /** Whether the address fills something in. */
  get begun() {
    return Object.keys(this.given).length > 0;
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

  /** Whether rules say something of an entry before anything is typed in it. */
  private get works() {
    return (this.rules?.formulas.length ?? 0) > 0;
  }

  /** Whether rules hold stored records against others. */
  private get usual() {
    return this.rules?.checks.some(({ rule }) => rule.kind === "usual") ?? false;
  }

  /** Whether it is a new entry with nothing typed. */
  get blank() {
    const { record, typed, base } = this.state;
    return (
      !record &&
      Object.entries(typed).every(([column, text]) => text.trim() === (base[column] ?? "").trim()) &&
      !changedLines(this.state.lines)
    );
  }

  /** Whether there is something in it that is not stored. */
  get dirty() {
    return this.state.record
      ? Object.keys(changes(this.state)).length > 0 || changedLines(this.state.lines)
      : !this.blank;
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
    this.set({ typed, stops, chosen, answers: {} });
    this.assessSoon();
  }

  /** Those fields as they were typed in the entry before. */
  asBefore(columns: string[]) {
    for (const column of columns) if (this.last[column]) this.type(column, this.last[column]);
  }

  /** Changes the lines of that id, and reads all of it anew. */
  private line(id: string, change: (lines: SheetLine[]) => SheetLine[]) {
    if (this.state.pending) this.turn();
    const item = this.items.find((each) => each.id === id);
    const lines = this.state.lines[id];
    if (!item || !lines) return;
    const changed = ended(item, change(lines), !this.state.record);
    const lineStops = new Map(this.state.lineStops);
    lineStops.delete(0);
    for (const line of changed) if (!lines.includes(line)) lineStops.delete(line.id);
    this.set({ lines: { ...this.state.lines, [id]: changed }, lineStops, answers: {} });
    this.assessSoon();
  }

  typeLine(id: string, at: number, column: string, text: string) {
    if ((this.state.lines[id]?.[at]?.typed[column] ?? "") === text) return;
    this.line(id, (lines) =>
      lines.map((line, n) => (n === at ? { ...line, typed: { ...line.typed, [column]: text } } : line)),
    );
  }

  /** Takes a line out, or leaves one in that was to be taken out. */
  takeOutLine(id: string, at: number) {
    this.line(id, (lines) =>
      lines[at]?.stored
        ? lines.map((line, n) => (n === at ? { ...line, gone: !line.gone } : line))
        : lines.toSpliced(at, 1),
    );
  }

  insertLine(id: string, at: number) {
    this.line(id, (lines) => lines.toSpliced(at, 0, newLine()));
  }

  /** Cells that were copied elsewhere, from that line on. */
  pasteLines(id: string, at: number, cells: Typed[]) {
    this.line(id, (lines) => {
      const all = [...lines];
      cells.forEach((typed, n) => {
        const there = all[at + n] ?? newLine();
        all[at + n] = { ...there, typed: { ...there.typed, ...typed } };
      });
      return all;
    });
  }

  /** Lines that were kept come back over those that are stored. */
  bringLines(drafts: Record<string, LineDraft[]>) {
    for (const item of this.items) {
      const kept = drafts[item.id];
      if (kept) this.line(item.id, (lines) => withDraft(item, lines, kept, !this.state.record));
    }
  }

  /** Lines that somebody else changed are as they are stored now; what was typed into them stays typed. */
  linesNow(now: Record<string, { line: number; record: StoredRecord | null }[]>) {
    const lineStops = new Map<number, Finding[]>();
    const lines = Object.fromEntries(
      this.items.map((item) => {
        const theirs = new Map((now[item.id] ?? []).map(({ line, record }) => [line, record]));
        const each = (this.state.lines[item.id] ?? []).flatMap((line, at): SheetLine[] => {
          if (!theirs.has(at + 1)) return [line];
          const record = theirs.get(at + 1) ?? undefined;
          if (!record && line.gone) return [];
          const [stands] = record ? storedLines(item, [record], this.decimalSign) : [];
          const words = stands && Object.values(stands.base).filter(Boolean).join(", ");
          lineStops.set(line.id, [
            {
              field: item.items[0]?.column ?? "",
              code: "stale",
              severity: "ask",
              rule: "",
              message: record
                ? `Somebody else changed this line meanwhile: it holds ${words} now. Save again to put yours in its place.`
                : "Somebody else took this line out meanwhile. Save again to add it anew.",
            },
          ]);
          return [{ ...line, stored: record, base: stands?.base ?? {} }];
        });
        return [item.id, each];
      }),
    );
    this.set({ lines, lineStops });
  }

  /** Takes one of several records that match a fill. */
  choose(fill: string, record: number) {
    this.set({ chosen: { ...this.state.chosen, [fill]: record }, stops: [] });
    this.assessSoon();
  }

  /** Answers what asks; the answers count until something else is typed. */
  answer(answers: Typed) {
    this.set({ answers: { ...this.state.answers, ...answers }, stops: [] });
  }

  /** It is none of those that a rule finds it nearly the same as; that counts until its fields hold something else. */
  sayNew(rule: string) {
    this.set({ isNew: { ...this.state.isNew, [rule]: this.heldBy(rule) } });
    this.assess();
  }

  /** What the fields hold that a rule compares. */
  private heldBy(id: string): string {
    const must = this.rules?.checks.find((check) => check.id === id)?.rule;
    return must?.kind === "alike"
      ? JSON.stringify(must.columns.map((column) => this.state.typed[column]))
      : "";
  }

  private get answers(): Typed {
    const said = Object.entries(this.state.isNew).filter(([rule, held]) => held === this.heldBy(rule));
    return { ...this.state.answers, ...Object.fromEntries(said.map(([rule]) => [rule, "yes"])) };
  }

  /** What goes with the fields to the server. */
  get beside(): Beside {
    const { chosen, typed, assessment } = this.state;
    return { answers: this.answers, chosen, seen: seenIn(typed, assessment), last: this.saved };
  }

  leave(column: string) {
    const { pending, left, typed, base, assessment } = this.state;
    if (pending || left.has(column) || (typed[column] ?? "") === (base[column] ?? "")) return;
    // What was found while it was still being typed is not said of what stands there now; the next answer is on its way.
    const late = assessment && typed[column] !== this.told[column];
    this.set({
      left: new Set(left).add(column),
      ...(late && {
        assessment: { ...assessment, findings: assessment.findings.filter(({ field }) => field !== column) },
      }),
    });
  }

  /** The save of what stands here is under way. */
  await(key: string) {
    this.assessing.stop();
    this.last = this.state.typed;
    this.set({ pending: key });
  }

  /** The next entry begins: the form is clear. */
  turn() {
    this.assessing.stop();
    const start = this.start();
    // What the address gives was typed by nobody here: what is wrong with it is said at once.
    const left = new Set(Object.keys(this.given));
    this.become({ ...BLANK, base: start, typed: start, left, lines: this.blankLines() });
    if (Object.keys(start).length > 0 || this.works) this.assessSoon();
  }

  /** A stored record comes into the form; what is typed over it, if anything, stays to be saved. */
  show(record: StoredRecord, base: Typed, over: Typed = {}) {
    this.assessing.stop();
    // Of the same record the lines stay until they are here anew.
    const lines = this.state.record?.id === record.id ? this.state.lines : {};
    this.become({ ...BLANK, record, base, typed: { ...base, ...over }, lines });
    if (this.dirty || this.works || this.usual) this.assessSoon();
    if (this.items.length > 0 && !this.bench) this.fetchLines(record);
  }

  private blankLines(): Lines {
    return Object.fromEntries(this.items.map((item) => [item.id, ended(item, [], true)]));
  }

  /** The lines of the record that is shown, unless another one is by then; what was typed into them meanwhile stays. */
  private async fetchLines(record: StoredRecord) {
    const params = { path: { door: this.place, id: record.id } };
    const rows = await answered(api.GET("/api/doors/{door}/records/{id}/lines", { params })).catch(
      () => undefined,
    );
    if (rows && this.state.record?.id === record.id && !changedLines(this.state.lines)) this.setLines(rows);
  }

  private setLines(rows: Record<string, StoredRecord[]>) {
    const lines = Object.fromEntries(
      this.items.map((item) => [item.id, storedLines(item, rows[item.id] ?? [], this.decimalSign)]),
    );
    this.set({ lines, lineStops: new Map(), readLines: new Map() });
  }

  /** The change that was sent is stored; what was typed since stays to be saved. */
  stored(record: StoredRecord & { lines?: Record<string, StoredRecord[]> }, base: Typed, sent: Typed) {
    if (record.lines) this.setLines(record.lines);
    const since = Object.entries(this.state.typed).filter(([column, text]) => text !== sent[column]);
    this.show(record, base, Object.fromEntries(since));
  }

  /** The record is as it is stored again. */
  putBack() {
    const { record, base, lines } = this.state;
    if (!record) return;
    const back = this.items.map((item): [string, SheetLine[]] => [
      item.id,
      ended(
        item,
        (lines[item.id] ?? [])
          .filter(({ stored }) => stored)
          .map((line) => ({ ...line, typed: line.base, gone: false })),
        false,
      ),
    ]);
    this.set({ lines: Object.fromEntries(back) });
    this.show(record, base);
  }

  /** Reads what is typed anew, since the rules may be others now. */
  again() {
    if (!this.blank || this.works) this.assessSoon();
  }

  /** What is sent: keys as they are typed, and of a link that was not typed over, which record it is. */
  get values(): Record<string, string | { id: number }> {
    const { record, base, typed } = this.state;
    return Object.fromEntries(
      Object.entries(typed).map(([column, text]) => {
        const stored = record?.values[column];
        return [column, isLink(stored) && text === base[column] ? { id: stored.id } : text];
      }),
    );
  }

  /** What of the lines is sent. */
  get sentLines() {
    return sentLines(this.state.lines, this.state.readLines);
  }

  /** The lines of a new entry as they are typed, up to the last one in which something is. */
  get typedLines(): Record<string, Typed[]> | undefined {
    if (!changedLines(this.state.lines)) return undefined;
    return Object.fromEntries(
      Object.entries(this.state.lines).map(([id, lines]) => [
        id,
        lines.slice(0, lines.findLastIndex((line) => !blankLine(line)) + 1).map(({ typed }) => typed),
      ]),
    );
  }

  /** What fills bring into the lines of a new entry where something else is typed. */
  get seenLines(): Record<string, (Typed | undefined)[]> | undefined {
    const { lines, readLines } = this.state;
    return readLines.size > 0
      ? Object.fromEntries(
          Object.entries(lines).map(([id, each]) => [
            id,
            each.map((line) => seenIn(line.typed, readLines.get(line.id))),
          ]),
        )
      : undefined;
  }

  /** What of a new entry is sent: what is typed, and where something was taken out. */
  get sent(): Typed {
    return this.state.typed;
  }

  /** What of that is filled into fields that this version of the form does not have. */
  beyond(typed: Typed): string[] {
    return Object.entries(typed)
      .filter(([column, text]) => text.trim() && !this.has(column))
      .map(([, text]) => text.trim());
  }

  /** What was sent of what stands here is refused. It stands here until the next key, or until one goes back to it. */
  refused(findings: Finding[]) {
    this.set({
      stops: findings.filter((finding) => !finding.lines),
      lineStops: stopsOf(this.state.lines, findings),
      left: new Set(Object.keys(this.state.typed)),
    });
  }

  /** An entry that was stopped stands in the form again, with what stopped it. */
  stopped(typed: Typed, findings: Finding[], sent?: Record<string, Typed[]>, chosen = this.state.chosen) {
    this.assessing.stop();
    const lines = sent
      ? Object.fromEntries(
          this.items.map((item) => [item.id, ended(item, (sent[item.id] ?? []).map(newLine), true)]),
        )
      : this.state.lines;
    this.set({
      typed: this.only(typed),
      chosen,
      lines,
      stops: findings.filter((finding) => !finding.lines),
      lineStops: stopsOf(lines, findings),
      pending: undefined,
      left: new Set(Object.keys(typed)),
    });
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

  private assessSoon() {
    this.assessing.soon(ASSESS_AFTER);
  }

  /** Reads what is typed right away. */
  assess(): Promise<void> {
    return this.assessing.now();
  }

  private async read(signal: AbortSignal) {
    const { typed, lines } = this.state;
    try {
      const body = {
        lines: sentLines(lines),
        values: this.values,
        ...this.beside,
        seen: undefined,
        record: this.state.record?.id,
        version: this.bench ? undefined : this.version,
      };
      const assessment = await this.ask(body, signal);
      if (signal.aborted) return;
      this.told = typed;
      const readLines = new Map(
        Object.entries(assessment.lines ?? {}).flatMap(([id, said]) =>
          said.flatMap((each) => {
            const line = lines[id]?.[each.line - 1];
            return line ? [[line.id, each] as const] : [];
          }),
        ),
      );
      this.set({ assessment, readLines });
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

/** The findings to show: those of fields that were left, what is unusual in a stored record, and those that stopped a save. */
export function shownFindings({ assessment, stops, left, typed, record, pending }: EntryState): Finding[] {
  // What was sent is judged by its answer, not by what was found while it was still being typed.
  if (pending) return stops;
  const stopped = new Set(stops.map((finding) => finding.field));
  const ofLeft = (assessment?.findings ?? []).filter(
    (finding) =>
      !stopped.has(finding.field) &&
      (left.has(finding.field) || (record && finding.code === "unusual")) &&
      (record || (typed[finding.field]?.trim() && finding.cause.is !== "nearly-alike")),
  );
  return [...stops, ...ofLeft];
}

type Finds = Extract<Schemas["Cause"], { is: "nearly-alike" }>;

/** What a new entry is found to be nearly the same as, as soon as enough is typed: the records, by which rule, at which field. */
export function likesOf({ assessment, record, pending }: EntryState) {
  if (record || pending) return undefined;
  const found = assessment?.findings.find(({ cause, line }) => cause.is === "nearly-alike" && !line);
  if (!found) return undefined;
  const { records, unseen } = found.cause as Finds;
  return { field: found.field, rule: found.rule, records, unseen };
}
