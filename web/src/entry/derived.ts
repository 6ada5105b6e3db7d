import type { Form, SeenTable as Table } from "../api/client";
import { fieldsOf } from "../model/items";
import type { EntryState } from "./entry";
import type { Typed } from "./outbox";
import { text } from "./texts";

/**
 * What stands in each field: what was typed, or what rules put there. Keys count at once; a rule's value comes with the
 * next answer of the server, and never over keys.
 */
export function standing(form: Form, table: Table, state: EntryState): Typed {
  const { typed, base, record, assessment } = state;
  if (!assessment) return typed;
  const stands = { ...typed };
  for (const { column } of fieldsOf(form)) {
    const origin = assessment.fields[column]?.origin;
    const touched = record
      ? (typed[column] ?? "") !== (base[column] ?? "")
      : (typed[column] ?? "").trim() !== "" || (origin === "begun" && column in typed);
    const derived = origin === "calculated" || (!touched && (origin === "filled" || origin === "begun"));
    if (derived) stands[column] = text(form, table, column, assessment.values[column]);
  }
  return stands;
}

/**
 * What is worked out of a stored record comes to something else by now, as where one of its lines was changed elsewhere: what is
 * stored, by column.
 */
export function outdated(form: Form, table: Table, state: EntryState): Typed {
  const { record, base, assessment } = state;
  if (!record || !assessment) return {};
  const stands = standing(form, table, state);
  return Object.fromEntries(
    fieldsOf(form)
      .map(({ column }) => [column, base[column] ?? ""] as const)
      .filter(
        ([column, stored]) =>
          assessment.fields[column]?.origin === "calculated" && (stands[column] ?? "") !== stored,
      ),
  );
}
