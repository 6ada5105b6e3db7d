import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answered, api, type Form, type Schemas } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { FormView } from "../form/FormView";
import type { EntryView, Presses } from "../form/view";

export type Sketched = Schemas["Sketched"];

/** What would be made of headings under that title; nothing is kept. */
export const sketchQuery = (title: string, lines: string[]) => ({
  queryKey: queryKeyOf("begin", title, lines),
  queryFn: ({ signal }: { signal: AbortSignal }) =>
    answered(
      api.POST("/api/forms/begun/read", { body: { lines, title: title || null, publish: null }, signal }),
    ),
  enabled: lines.length > 0,
});

/** Such a form where its headings are known beforehand. */
export function AliveOf({ lines }: { lines: string[] }) {
  const sketched = useQuery(sketchQuery("", lines)).data;
  return sketched ? <Alive sketched={sketched} /> : null;
}

const STILL: Presses = { can: () => false, press: () => {} };

/** The form that would be made, to be tried; nothing of what is typed into it is kept. */
export function Alive({ sketched }: { sketched: Sketched }) {
  const [typed, setTyped] = useState<Record<string, string>>({});
  const entry: EntryView = {
    typed,
    was: {},
    values: {},
    readings: {},
    findings: [],
    type: (column, text) => setTyped((before) => ({ ...before, [column]: text })),
    leave: () => {},
  };
  return (
    <FormView
      form={sketched.form as unknown as Form}
      columns={sketched.columns}
      entry={entry}
      presses={STILL}
    />
  );
}
