import { changes, type Entry } from "./entry";
import { mine } from "./mine";
import type { Typed } from "./outbox";
import { draftOf, type LineDraft } from "./sheet";

/** What was typed and not saved when its page went away. */
export interface Draft {
  key: string;
  at: number;
  /** When its page was last known to be open. */
  seen: number;
  /** The stored record that it changes; a new entry when there is none. */
  record: { id: number; row: number } | null;
  typed: Typed;
  /** What of its lines was not saved, by the id of the form's lines. */
  lines?: Record<string, LineDraft[]>;
}

const BEAT = 3_000;
/** A page that was not heard of for so long is gone. */
const GONE = 8_000;

const place = (door: string) => `${mine("draft")}${door} `;

/** This page's own, which stays the same through a reload. */
function tab(): string {
  const kept = sessionStorage.getItem("weft.tab") ?? Math.random().toString(36).slice(2);
  sessionStorage.setItem("weft.tab", kept);
  return kept;
}

/**
 * Keeps what is typed into a form in the browser's storage from the first key on, until it is saved or cleared. It
 * survives a reload, a closed page and a crash.
 */
export function keepDraft(form: string, entry: Entry): () => void {
  const key = place(form) + tab();
  const keep = () => {
    const state = entry.snapshot();
    // An entry on its way to the server is in the outbox.
    if (!entry.dirty || state.pending) {
      localStorage.removeItem(key);
      return;
    }
    const { record, typed } = state;
    const was = changes(state);
    const draft: Omit<Draft, "key"> = {
      at: Date.now(),
      seen: Date.now(),
      record: record ? { id: record.id, row: record.row } : null,
      typed: record
        ? Object.fromEntries(Object.keys(was).map((column) => [column, typed[column] ?? ""]))
        : typed,
      lines: draftOf(state.lines),
    };
    localStorage.setItem(key, JSON.stringify(draft));
  };
  const beat = setInterval(() => {
    const kept = localStorage.getItem(key);
    if (kept) localStorage.setItem(key, JSON.stringify({ ...JSON.parse(kept), seen: Date.now() }));
  }, BEAT);
  const stop = entry.subscribe(keep);
  return () => {
    clearInterval(beat);
    stop();
  };
}

/** Sets this page's draft aside, as when it was reloaded, before the next entry takes its place. */
export function setAside(form: string) {
  const mine = place(form) + tab();
  const kept = localStorage.getItem(mine);
  if (!kept) return;
  localStorage.removeItem(mine);
  localStorage.setItem(`${mine} ${Date.now()}`, JSON.stringify({ ...JSON.parse(kept), seen: 0 }));
}

/** Drafts whose pages are gone, the latest first. */
export function leftOver(form: string): Draft[] {
  return Object.keys(localStorage)
    .filter((key) => key.startsWith(place(form)))
    .map((key) => ({ ...JSON.parse(localStorage.getItem(key) ?? "{}"), key }) as Draft)
    .filter((draft) => Date.now() - draft.seen > GONE)
    .sort((a, b) => b.at - a.at);
}

export const forget = (draft: Draft) => localStorage.removeItem(draft.key);
