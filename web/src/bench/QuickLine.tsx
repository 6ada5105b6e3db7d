import { useQuery } from "@tanstack/react-query";
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
  const read = useQuery({
    queryKey: ["line", bench.form.id, asked],
    queryFn: ({ signal }) =>
      answered(
        api.POST("/api/forms/{form}/lines/read", {
          params: { path: { form: bench.form.id } },
          body: { lines: [asked] },
          signal,
        }),
      ),
    enabled: asked !== "",
    placeholderData: (before) => before,
  }).data;
  const add = async (lines: string[]) => {
    if (busy) return;
    setBusy(true);
    const last = bench.ids.at(-1);
    const made = await bench.addLines(lines, after ?? bench.selected.at(-1) ?? last);
    setBusy(false);
    if (!made) return;
    setLine("");
    follow?.(made);
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
            if (e.key === "Enter" && line.trim()) add([line.trim()]);
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
        {asked && (read?.unclear ?? read?.words)}
      </p>
    </div>
  );
}
