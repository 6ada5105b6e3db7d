import type { DeskForm, FormField } from "../api/client";
import { fieldsOf, seen } from "../model/items";

/** The fields that are keyed once for all lines: those that the door names, else those that the form carries over. */
export function sameOf(form: DeskForm): FormField[] {
  const named = form.door.same;
  return fieldsOf(form).filter(
    (field) => seen(field) && (named.length > 0 ? named.includes(field.column) : field.carried),
  );
}
