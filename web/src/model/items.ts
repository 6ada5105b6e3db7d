import type { Form, FormButton, FormField, FormItem } from "../api/client";

/** Every item of a form in tab order. */
export const itemsOf = (form: Form): FormItem[] => form.sections.flatMap((section) => section.items);

/** How many of the 12 tracks it takes; lines take all of them. */
export const widthOf = (item: FormItem): number => (item.kind === "lines" ? 12 : item.width);

export const isField = (item: FormItem): item is FormField => item.kind === "field";
export const isButton = (item: FormItem): item is FormButton => item.kind === "button";

/** Every field of a form in tab order. */
export const fieldsOf = (form: Form): FormField[] => itemsOf(form).filter(isField);

/** The fields that Tab stops in, in its order. */
export const focusable = (form: Form): FormField[] =>
  fieldsOf(form).filter((field) => !field.use || field.use === "open" || field.use === "read-only");

/** Where typing begins. */
export function firstField(form: Form): FormField | undefined {
  const open = focusable(form).filter((field) => field.use !== "read-only");
  return open.find((field) => field.first) ?? open[0];
}

/** The fields of a form that can be typed in or read back: all but the hidden ones. */
export const seen = (item: FormItem): boolean => item.kind !== "field" || item.use !== "hidden";
