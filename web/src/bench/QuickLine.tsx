import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { answered, api } from "../api/client";
import type { BenchDoings } from "./useBench";

interface Props {
  bench: BenchDoings;
  /** The item that the new field comes after; the last one of what is selected where none is said. */
  after?: string;
  /** Whether it is the line at the top of the outline. */
  main?: boolean;
  /** Told the new item, so that the next line opens below it. */
  follow?: (item: string) => void;
  close?: () => void;
}

/** A line that makes a field, its column and its limits, and says while one types what it will make. */
export function QuickLine({ bench, after, main, follow, close }: Props) {
  const [line, setLine] = useState("");
  const [busy, setBusy] = useState(false);
  const asked = useDeferredValue(line.trim());
  const question = (text: string) => ({
    queryKey: ["line", bench.form.id, bench.state?.revision, text],
    queryFn: () =>
      answered(
        api.POST("/api/forms/{form}/lines/read", {
          params: { path: { form: bench.form.id } },
          body: { lines: [text] },
        }),
      ),
    enabled: text !== "",
    placeholderData: keepPreviousData,
  });
  const queries = useQueryClient();
  const read = useQuery(question(asked)).data;
  const proposal = read?.proposal;
  const proposed = useQuery(question(asked && proposal ? `${asked}, ${proposal.say}` : "")).data;
  /** Adds what is typed, with what its heading tells unless that is refused. What is not understood stays, and is said below. */
  const add = async (plain: boolean) => {
    const text = line.trim();
    if (busy || !text) return;
    setBusy(true);
    try {
      const told = await queries.fetchQuery(question(text));
      if (told.unclear !== null) return;
      const whole = told.proposal && !plain ? `${text}, ${told.proposal.say}` : text;
      const last = bench.ids.at(-1);
      const made = await bench.addLines([whole], after ?? bench.selected.at(-1) ?? last);
      if (!made) return;
      setLine("");
      follow?.(made);
    } catch (e) {
      bench.say((e as Error).message, true);
    } finally {
      setBusy(false);
    }
  };
  const id = main ? "quick-line" : "quick-line-below";
  return (
    <div className="quick-line">
      <div className="entry">
        <input
          id={id}
          aria-label="Add a field"
          aria-describedby={`${id}-says`}
          // biome-ignore lint/a11y/noAutofocus: at the Bench one types fields
          autoFocus
          autoComplete="off"
          placeholder="Add a field: label, kind, limits…"
          value={line}
          onChange={(e) => setLine(e.target.value)}
          onPaste={(e) => {
            const text = e.clipboardData.getData("text");
            if (!/[\n\t]/.test(text.trim())) return;
            e.preventDefault();
            bench.paste(text);
          }}
          onKeyDown={(e) => {
            if (e.key === "Enter" && line.trim()) add(e.ctrlKey || e.metaKey);
            else if (e.key === "Escape") {
              setLine("");
              close?.();
              document.getElementById(`line-${after ?? bench.selected.at(-1)}`)?.focus();
            } else return;
            e.preventDefault();
          }}
          onBlur={() => !line && close?.()}
        />
        <kbd>Enter</kbd>
      </div>
      <p id={`${id}-says`} className={`say ${read?.unclear ? "stop" : "read"}`} aria-live="polite">
        {asked &&
          (read?.unclear ??
            (proposal && proposed?.words ? `${proposed.words}: ${proposal.why}.` : read?.words))}
        {asked && proposal && (
          <button type="button" className="btn small ml-2" onClick={() => add(true)}>
            As text <kbd>Ctrl Enter</kbd>
          </button>
        )}
      </p>
    </div>
  );
}
