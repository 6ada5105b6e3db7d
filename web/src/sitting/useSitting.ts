import { useEffect, useLayoutEffect, useMemo } from "react";
import { flushSync } from "react-dom";
import type { DeskForm as Form } from "../api/client";
import { Sitting } from "../entry/sitting";
import { used } from "../entry/used";
import { inputId } from "../form/FieldView";
import { useSubscribed } from "../model/useSubscribed";

/** The sitting at a form that is open at the Desk; it owns the cursor in the form, the sitting owns the rest. */
export function useSitting(form: Form, version: number | undefined) {
  const sitting = useMemo(() => new Sitting(form.door.id), [form.door.id]);
  useLayoutEffect(() => sitting.follow(form, version), [sitting, form, version]);
  useEffect(() => {
    sitting.take({
      draw: flushSync,
      focus,
      counted: (entries) => form.door.byLink || used(form.door.id, entries),
      focusLine: (lines, at, column) => sitting.entry.cursors.get(lines)?.(at, column),
    });
    if (!form.door.byLink) used(form.door.id, 0);
    return sitting.begin();
  }, [sitting, form.door.id, form.door.byLink]);
  const { kept, said, question: put } = useSubscribed(sitting);
  const state = useSubscribed(sitting.entry);
  const question = put?.key && put.key !== state.pending ? undefined : put;
  const outgoing = useSubscribed(sitting.outbox);
  return { ...sitting, fields: sitting.fields, kept, said, question, state, outgoing, sitting };
}

export type SittingDoings = ReturnType<typeof useSitting>;

function focus(column: string | undefined, over: boolean) {
  const field = column && document.getElementById(inputId(column));
  if (!field) return;
  field.focus();
  // What stays of the last entry gives way to the first key.
  if (over && field instanceof HTMLInputElement) field.select();
}
