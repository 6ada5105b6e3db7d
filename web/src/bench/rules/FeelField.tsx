import FeelEditor from "@bpmn-io/feel-editor";
import { syntaxHighlighting } from "@codemirror/language";
import { EditorView } from "@codemirror/view";
import { classHighlighter } from "@lezer/highlight";
import { useEffect, useRef } from "react";
import type { Table } from "../../api/client";

interface Props {
  name: string;
  value: string;
  set: (value: string) => void;
  table: Table;
}

const AROUND = [
  { name: "today()", detail: "today's date" },
  { name: "now()", detail: "date and time" },
  { name: "person", detail: "who enters it" },
  { name: "last", detail: "the entry saved before" },
];

/** A formula with its colours, and the names of columns offered while one types. */
export default function FeelField({ name, value, set, table }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const editor = useRef<FeelEditor>(undefined);
  const written = useRef(value);
  const latest = useRef(set);
  latest.current = set;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the editor is made once and told of changes below
  useEffect(() => {
    const container = box.current;
    if (!container) return;
    editor.current = new FeelEditor({
      container,
      value,
      onChange: (next) => {
        written.current = next;
        latest.current(next);
      },
      variables: [...table.columns.map((column) => ({ name: column.name, detail: column.title })), ...AROUND],
      contentAttributes: { "aria-label": name },
      // The colours are the theme's own, by what a word is; long formulas are wrapped.
      extensions: [syntaxHighlighting(classHighlighter), EditorView.lineWrapping],
    });
    return () => container.replaceChildren();
  }, [name, table.name]);
  useEffect(() => {
    if (value !== written.current) {
      written.current = value;
      editor.current?.setValue(value);
    }
  }, [value]);
  return <div ref={box} className="feel" />;
}
