import { memo, useEffect, useRef, useState } from "react";
import type { FormItem } from "../api/client";
import { change } from "./edits";
import type { BenchDoings } from "./useBench";

interface Props {
  latest: () => BenchDoings;
  item: FormItem;
  number: number;
  must: boolean;
  /** What rules do with it: fill it in, work it out, check it. */
  rules: string;
  thread: number | undefined;
  selected: boolean;
  /** Whether Tab comes to this line. */
  current: boolean;
  /** Whether its settings stand below it. */
  open: boolean;
  /** Opens a line below to type the next field into. */
  insert: (item: string) => void;
}

/** One line of the outline: its number, label, marks and thread. */
export const OutlineLine = memo(function OutlineLine(props: Props) {
  const { latest, item, number, must, rules, thread, selected, current, open, insert } = props;
  const [naming, setNaming] = useState(false);
  const line = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (selected) line.current?.scrollIntoView({ block: "nearest" });
  }, [selected]);

  const keys = (e: React.KeyboardEvent) => {
    const bench = latest();
    const { ids } = bench;
    const to = { ArrowDown: number, ArrowUp: number - 2, Home: 0, End: ids.length - 1 }[e.key];
    const id = to === undefined ? undefined : ids[to];
    if (id && !e.altKey && !e.ctrlKey) {
      // What is selected begins at the line one stands on.
      if (e.shiftKey && !selected) bench.select(item.id);
      bench.select(id, e.shiftKey ? "range" : "only");
      document.getElementById(`line-${id}`)?.focus();
    } else if (e.key === "Enter") insert(item.id);
    else if (e.key === " ") bench.setOpen(!bench.open);
    else if (e.key === "F2" && "label" in item) setNaming(true);
    else if (e.key === "Escape") {
      if (bench.open) bench.setOpen(false);
      else bench.clear();
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };

  if (naming) {
    return (
      <li className="line naming">
        <span className="number">{number}</span>
        <input
          aria-label="Label"
          className="entry small"
          // biome-ignore lint/a11y/noAutofocus: one asked to type here
          autoFocus
          defaultValue={"label" in item ? item.label : ""}
          onFocus={(e) => e.target.select()}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key !== "Enter" && e.key !== "Escape") return;
            if (e.key === "Enter") latest().edit(change([item.id], { label: e.currentTarget.value.trim() }));
            setNaming(false);
            setTimeout(() => line.current?.focus());
          }}
          onBlur={(e) => {
            latest().edit(change([item.id], { label: e.currentTarget.value.trim() }));
            setNaming(false);
          }}
        />
      </li>
    );
  }
  return (
    <li className={`line ${selected ? "selected" : ""}`}>
      <button
        ref={line}
        id={`line-${item.id}`}
        type="button"
        tabIndex={current ? 0 : -1}
        aria-pressed={selected}
        aria-keyshortcuts="Enter F2 Space Delete Alt+ArrowUp Alt+ArrowDown"
        onClick={(e) =>
          latest().select(item.id, e.shiftKey ? "range" : e.ctrlKey || e.metaKey ? "more" : "only")
        }
        onDoubleClick={() => setNaming("label" in item)}
        onKeyDown={keys}
      >
        <span className="number">{number}</span>
        <span className="name">{nameOf(item)}</span>
        {marks(item, must, rules).map((mark) => (
          <span key={mark} className="mark">
            {mark}
          </span>
        ))}
        {item.kind === "field" ? (
          <>
            <Dash thread={thread} />
            <span className="column">{item.column}</span>
          </>
        ) : (
          <span className="column">{item.kind === "button" ? item.action.replace("-", " ") : item.kind}</span>
        )}
      </button>
      {selected && (
        <button
          type="button"
          className="more"
          aria-label={`Settings of ${nameOf(item)}`}
          aria-expanded={open}
          onClick={() => latest().setOpen(!latest().open)}
        >
          …
        </button>
      )}
    </li>
  );
});

/** A short piece of a thread, in its colour and its dash; frayed where it leads nowhere. */
export function Dash({ thread }: { thread: number | undefined }) {
  return (
    <svg className={`dash ${thread === undefined ? "frayed" : `thread-${thread}`}`} aria-hidden="true">
      <line x1="0" y1="2" x2="18" y2="2" />
    </svg>
  );
}

export function nameOf(item: FormItem): string {
  if ("label" in item) return item.label || "no label";
  if ("text" in item) return item.text?.split("\n")[0] || "divider";
  return "picture";
}

function marks(item: FormItem, must: boolean, rules: string): string[] {
  if (item.kind === "button") return item.key === "enter" ? ["Enter"] : item.key === "esc" ? ["Esc"] : [];
  if (item.kind !== "field") return [];
  return [
    must ? "required" : "",
    item.use === "locked"
      ? "locked"
      : item.use === "hidden"
        ? "hidden"
        : item.use === "read-only"
          ? "read"
          : "",
    item.carried ? "kept" : "",
    item.first ? "first" : "",
    rules,
  ].filter(Boolean);
}
