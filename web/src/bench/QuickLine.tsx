import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useLayoutEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { answered, api } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { toEnd, typedOn } from "./typedOn";
import { type BenchDoings, useLatest } from "./useBench";

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
  const box = useRef<HTMLInputElement>(null);
  const asked = useDeferredValue(line.trim());
  const question = (text: string) => ({
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
  const queries = useQueryClient();
  const read = useQuery(question(asked)).data;
  const proposal = read?.proposal;
  const proposed = useQuery(question(asked && proposal ? `${asked}, ${proposal.say}` : "")).data;
  const now = useLatest(bench);
  const written = useRef(line);
  written.current = line;
  /** Lines that were not understood when others were typed already. */
  const [left, setLeft] = useState<{ text: string; why: string }[]>([]);
  /** Lines that are being made, one after the other. */
  const making = useRef<string[]>([]);
  const turn = useRef(Promise.resolve());
  /** What the one before made: the next stands after it. */
  const run = useRef<string>(undefined);
  /** Adds what is typed; what is typed from then on takes its place, and is a line of its own. */
  const add = (typed: string, plain: boolean) => {
    const text = typed.trim();
    if (!text || making.current.includes(text)) return;
    making.current.push(text);
    box.current?.select();
    turn.current = turn.current.then(async () => {
      try {
        await make(text, plain);
      } catch (e) {
        now().say((e as Error).message, true);
      } finally {
        making.current = making.current.filter((each) => each !== text);
        if (making.current.length === 0) run.current = undefined;
        toEnd(box.current);
      }
    });
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was typed on is taken over once
  useLayoutEffect(() => {
    const lines = typedOn.take().split("\n");
    setLine(lines.pop() ?? "");
    for (const each of lines) add(each, false);
  }, []);
  /** Makes its field, with what its heading tells unless that is refused. What is not understood stays, and is said below. */
  const make = async (text: string, plain: boolean) => {
    const told = await queries.fetchQuery(question(text));
    const stands = () => written.current.trim() === text;
    if (told.unclear !== null) {
      const why = told.unclear;
      if (!stands()) setLeft((before) => [...before, { text, why }]);
      return;
    }
    const whole = told.proposal && !plain ? `${text}, ${told.proposal.say}` : text;
    const place = after ?? run.current ?? now().selected.at(-1) ?? now().ids.at(-1);
    const made = await now().addLines([whole], place);
    if (!made) {
      if (!stands()) setLeft((before) => [...before, { text, why: "It could not be added just now." }]);
      return;
    }
    run.current = made;
    if (!follow) setLine((typed) => (typed.trim() === text ? "" : typed));
    else {
      typedOn.leave(stands() ? "" : written.current);
      flushSync(() => follow(made));
    }
  };
  const id = main ? "quick-line" : "quick-line-below";
  return (
    <div className="quick-line">
      <div className="entry">
        <input
          ref={box}
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
            if (e.key === "Enter" && line.trim()) add(line, e.ctrlKey || e.metaKey);
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
      {left.length > 0 && (
        <ul className="left-lines" aria-label="Lines that were not understood">
          {left.map((each) => (
            <li key={each.text}>
              <button
                type="button"
                title="Puts it into the line again"
                onClick={() => {
                  setLine(each.text);
                  setLeft(left.filter((other) => other !== each));
                  box.current?.focus();
                }}
              >
                <q>{each.text}</q>
              </button>{" "}
              {each.why}
            </li>
          ))}
        </ul>
      )}
      <p id={`${id}-says`} className={`say ${read?.unclear ? "stop" : "read"}`} aria-live="polite">
        {asked &&
          (read?.unclear ??
            (proposal && proposed?.words ? `${proposed.words}: ${proposal.why}.` : read?.words))}
        {asked && proposal && (
          <button type="button" className="btn small ml-2" onClick={() => add(line, true)}>
            As text <kbd>Ctrl Enter</kbd>
          </button>
        )}
      </p>
    </div>
  );
}
