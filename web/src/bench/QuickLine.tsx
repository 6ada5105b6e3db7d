import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { answered, api } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { useSubscribed } from "../model/useSubscribed";
import type { QuickLines } from "./quickLines";
import { type BenchDoings, useLatest } from "./useBench";

/** What a line would make, as the server reads it. */
const lineQuery = (bench: BenchDoings, text: string) => ({
  queryKey: queryKeyOf("line", bench.form.id, bench.state?.revision, text),
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

const boxOf = (id: string) => document.getElementById(id) as HTMLInputElement | null;

/** Gives lines that are typed into the box of that id their hands: they make fields after that item, or after the last of what is selected. */
export function useQuickLines(
  lines: QuickLines,
  bench: BenchDoings,
  box: string,
  after?: string,
  made?: (item: string) => void,
) {
  const queries = useQueryClient();
  const now = useLatest(bench);
  lines.take({
    read: (text) => queries.fetchQuery(lineQuery(now(), text)),
    make: (line, place) => now().addLines([line], place),
    place: () => after ?? now().selected.at(-1) ?? now().ids.at(-1),
    made,
    back: () => {
      boxOf(box)?.select();
      return boxOf(box) !== null;
    },
    say: (text) => now().say(text, true),
    busy: (turn) => now().turns.field(turn),
  });
}

interface Props {
  bench: BenchDoings;
  lines: QuickLines;
  /** The id of its box. */
  box: string;
  /** What the cursor goes back to when the line is left. */
  back: string | undefined;
  close?: () => void;
}

/** A line that makes a field, its column and its limits, and says while one types what it will make. */
export function QuickLine({ bench, lines, box, back, close }: Props) {
  const { line, left } = useSubscribed(lines);
  const asked = useDeferredValue(line.trim());
  const read = useQuery(lineQuery(bench, asked)).data;
  const proposal = read?.proposal;
  const proposed = useQuery(lineQuery(bench, asked && proposal ? `${asked}, ${proposal.say}` : "")).data;
  return (
    <div className="quick-line">
      <div className="entry">
        <input
          id={box}
          aria-label="Add a field"
          aria-describedby={`${box}-says`}
          // biome-ignore lint/a11y/noAutofocus: at the Bench one types fields
          autoFocus
          autoComplete="off"
          placeholder="Add a field: label, kind, limits…"
          value={line}
          onChange={(e) => lines.type(e.target.value)}
          onPaste={(e) => {
            const text = e.clipboardData.getData("text");
            if (!/[\n\t]/.test(text.trim())) return;
            e.preventDefault();
            bench.paste(text);
          }}
          onKeyDown={(e) => {
            if (e.key === "Enter" && line.trim()) lines.add(line, e.ctrlKey || e.metaKey);
            else if (e.key === "Escape") {
              lines.type("");
              close?.();
              document.getElementById(`line-${back}`)?.focus();
            } else return;
            e.preventDefault();
          }}
          onBlur={() => !line && close?.()}
        />
        <kbd>Enter</kbd>
      </div>
      {left.length > 0 && (
        <ul className="left-lines" aria-label="Lines that were not understood">
          {left.map((each) => (
            <li key={each.text}>
              <button
                type="button"
                title="Puts it into the line again"
                onClick={() => {
                  lines.again(each.text);
                  boxOf(box)?.focus();
                }}
              >
                <q>{each.text}</q>
              </button>{" "}
              {each.why}
            </li>
          ))}
        </ul>
      )}
      <p id={`${box}-says`} className={`say ${read?.unclear ? "stop" : "read"}`} aria-live="polite">
        {asked &&
          (read?.unclear ??
            (proposal && proposed?.words ? `${proposed.words}: ${proposal.why}.` : read?.words))}
        {asked && proposal && (
          <button type="button" className="btn small ml-2" onClick={() => lines.add(line, true)}>
            As text <kbd>Ctrl Enter</kbd>
          </button>
        )}
      </p>
    </div>
  );
}
