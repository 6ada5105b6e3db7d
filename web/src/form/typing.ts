import type { FormField } from "../api/client";

type Keys = Partial<Pick<FormField, "shape" | "capitals" | "goesOnAfter">>;

const LETTER = /\p{L}/u;
const DIGIT = /\d/;

/** Whether that character can stand where the shape has this one. */
function fits(at: string, typed: string): boolean {
  if (LETTER.test(at)) return LETTER.test(typed);
  return DIGIT.test(at) ? DIGIT.test(typed) : at === typed;
}

/** The text with the signs of the shape put in where they were not typed. What does not fit the shape stays as it was typed. */
export function shaped(shape: string, text: string): string {
  const slots = [...shape];
  let at = 0;
  let made = "";
  for (const typed of text) {
    let past = at;
    while (past < slots.length && !fits(slots[past] ?? "", typed) && !/[\p{L}\d]/u.test(slots[past] ?? ""))
      past++;
    if (past >= slots.length || !fits(slots[past] ?? "", typed)) return text;
    made += slots.slice(at, past).join("") + typed;
    at = past + 1;
  }
  return made;
}

/** What is typed into a field in place of what stood there, as the builder chose that it be helped. */
export function tidy({ shape, capitals }: Keys, before: string, text: string, atEnd = true): string {
  const grew = text.length > before.length || !text.startsWith(before.slice(0, 1));
  const signed = shape && atEnd && grew ? shaped(shape, text) : text;
  return capitals ? signed.toUpperCase() : signed;
}

/** Whether a text has just become as long as it is to be. */
export const full = ({ goesOnAfter }: Keys, before: string, text: string): boolean =>
  !!goesOnAfter && [...before].length < goesOnAfter && [...text].length >= goesOnAfter;

/** Takes what was typed into the field with that id, tidied, and goes on to the next where the field is full. */
export function help(id: string, keys: Keys, before: string, typed: string, type: (text: string) => void) {
  const input = document.getElementById(id);
  const line = input instanceof HTMLInputElement && input === document.activeElement ? input : undefined;
  const caret = line?.selectionStart ?? typed.length;
  const text = tidy(keys, before, typed, caret === typed.length);
  if (line && text !== typed) {
    line.value = text;
    const to = caret === typed.length ? text.length : caret;
    line.setSelectionRange(to, to);
  }
  type(text);
  if (line && full(keys, before, text)) goOn(line);
}

/** To where Tab leads from there. */
function goOn(from: HTMLElement) {
  const tab = new KeyboardEvent("keydown", { key: "Tab", bubbles: true, cancelable: true });
  if (!from.dispatchEvent(tab)) return;
  const stops = from.closest(".form")?.querySelectorAll<HTMLElement>("input, textarea, select, [role=grid]");
  const next = [...(stops ?? [])].find(
    (stop) => from.compareDocumentPosition(stop) & Node.DOCUMENT_POSITION_FOLLOWING && stop.tabIndex >= 0,
  );
  next?.focus();
}
