import type { Finding, Form, Schemas, StoredRecord } from "../api/client";
import { itemsOf } from "../model/items";
import { isLink } from "../model/shown";
import type { Typed } from "./outbox";
import { type Read, seenIn } from "./seen";
import { typedText } from "./texts";

export type FormLines = Schemas["FormLines"];
type Sent = Schemas["SheetLineJson"];

/** A line of the record in the form. Its id stays while lines come and go above it. */
export interface SheetLine {
  id: number;
  /** The record that it is stored as; a new line when there is none. */
  stored?: StoredRecord;
  /** What its cells held when it was stored. */
  base: Typed;
  typed: Typed;
  /** Whether it is to be taken out. */
  gone?: boolean;
}

/** The lines of a record, by the id of the form's lines. */
export type Lines = Readonly<Record<string, SheetLine[]>>;

/** What of a line is kept until it is saved. */
export interface LineDraft {
  id?: number;
  typed: Typed;
  gone?: boolean;
}

let nextId = 1;

export const linesOf = (form: Form): FormLines[] =>
  itemsOf(form).filter((item): item is FormLines => item.kind === "lines");

export const newLine = (typed: Typed = {}): SheetLine => ({ id: nextId++, base: {}, typed });

export const blankLine = (line: SheetLine | undefined) =>
  !line || (!line.stored && Object.values(line.typed).every((text) => text.trim() === ""));

/** Whether there is something in it that is not stored. */
export const changedLine = ({ stored, base, typed, gone }: SheetLine) =>
  gone ||
  Object.entries(typed).some(([column, text]) => text.trim() !== (stored ? (base[column] ?? "").trim() : ""));

export const changedLines = (lines: Lines) => Object.values(lines).some((each) => each.some(changedLine));

/** The lines with a blank one at the end, where the next is keyed, and in a new entry as many as the form begins with. */
export function ended(item: FormLines, lines: SheetLine[], fresh: boolean): SheetLine[] {
  const kept = lines.filter(({ gone }) => !gone).length;
  if (item.most && kept > item.most) return lines;
  const all = [...lines];
  while (fresh && all.length < (item.blank ?? 1)) all.push(newLine());
  if (!blankLine(all.at(-1)) || all.length === 0) all.push(newLine());
  return all;
}

/** Lines as they are stored, ready to be typed over with that decimal sign. */
export const storedLines = (
  item: FormLines,
  rows: StoredRecord[],
  decimalSign: Form["decimalSign"],
): SheetLine[] =>
  ended(
    item,
    rows.map((stored) => {
      const base = Object.fromEntries(
        item.items.map(({ column, widget }) => [
          column,
          typedText(stored.values[column], widget, decimalSign),
        ]),
      );
      return { id: nextId++, stored, base, typed: base };
    }),
    false,
  );

/**
 * What is sent: those that are new, changed or taken out. The others are left blank, so that each keeps its number.
 *
 * @param read what was read of each line by its own id, where what fills had brought is to be told
 */
export function sentLines(
  lines: Lines,
  read?: ReadonlyMap<number, Read>,
): Record<string, Sent[]> | undefined {
  const sent = Object.entries(lines)
    .filter(([, each]) => each.some(changedLine))
    .map(([id, each]) => [
      id,
      each.map((line) => ({ ...sentLine(line), seen: seenIn(line.typed, read?.get(line.id)) })),
    ]);
  return sent.length > 0 ? Object.fromEntries(sent) : undefined;
}

function sentLine(line: SheetLine): Sent {
  const { stored, base, typed, gone } = line;
  if (!changedLine(line)) return { values: {} };
  const values = Object.fromEntries(
    Object.entries(typed).map(([column, text]) => {
      const was = stored?.values[column];
      return [column, isLink(was) && text === base[column] ? { id: was.id } : text];
    }),
  );
  return { id: stored?.id, version: stored?.version, values: gone ? {} : values, gone };
}

/** What was found in lines, by the lines' own ids; what is of all of them together is under 0. */
export function stopsOf(lines: Lines, findings: Finding[]): Map<number, Finding[]> {
  const stops = new Map<number, Finding[]>();
  for (const finding of findings) {
    if (!finding.lines) continue;
    const id = lines[finding.lines]?.[(finding.line ?? 0) - 1]?.id ?? 0;
    stops.set(id, [...(stops.get(id) ?? []), finding]);
  }
  return stops;
}

/** What of the lines is not stored. */
export function draftOf(lines: Lines): Record<string, LineDraft[]> | undefined {
  const drafts = Object.entries(lines)
    .map(([id, each]): [string, LineDraft[]] => [
      id,
      each.filter(changedLine).map(({ stored, typed, gone }) => ({ id: stored?.id, typed, gone })),
    ])
    .filter(([, each]) => each.length > 0);
  return drafts.length > 0 ? Object.fromEntries(drafts) : undefined;
}

/** The lines with what was kept of them. */
export function withDraft(
  item: FormLines,
  lines: SheetLine[],
  drafts: LineDraft[],
  fresh: boolean,
): SheetLine[] {
  const known = new Map(
    drafts.flatMap((draft) => (draft.id === undefined ? [] : [[draft.id, draft] as const])),
  );
  const over = lines.map((line) => {
    const draft = line.stored && known.get(line.stored.id);
    return draft ? { ...line, typed: { ...line.typed, ...draft.typed }, gone: draft.gone } : line;
  });
  const added = drafts.filter(({ id }) => id === undefined).map(({ typed }) => newLine(typed));
  return ended(item, [...over.filter((line) => !blankLine(line)), ...added], fresh);
}
