import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useEffect, useId, useRef, useState } from "react";
import { queryKeyOf } from "../../api/keys";
import { useSubscribed } from "../../model/useSubscribed";
import { toEnd } from "../typedOn";
import type { BenchDoings } from "../useBench";
import { type Read, readSentences, ruleOf } from "./reading";
import type { RuleLines } from "./ruleLines";
import { lookWords, useLook } from "./useLook";

const OFFERED = 7;

interface Props {
  bench: BenchDoings;
  name: string;
  lines: RuleLines;
  /** What the line begins with: the sentence that is changed. */
  start?: string;
  /** Makes rules of what was read; answers those that could not be made. */
  make: (read: Read[]) => Promise<Read[]>;
  close?: () => void;
}

/** A line that one types rules into as sentences, completed, read back and held against the stored records on the way. */
export function SentenceLine({ bench, name, lines, start = "", make, close }: Props) {
  const { text, quiet } = useSubscribed(lines);
  const [chosen, setChosen] = useState<number>();
  const box = useRef<HTMLTextAreaElement>(null);
  const id = useId();
  const asked = useDeferredValue(text);
  const came = useQuery({
    queryKey: queryKeyOf("sentence", bench.form.id, bench.lines, bench.state?.revision, asked),
    queryFn: ({ signal }) => readSentences(bench, asked, signal),
    enabled: asked.trim() !== "" || (start === "" && !quiet),
    placeholderData: keepPreviousData,
  });
  const read = asked.trim() ? came.data?.read[0] : undefined;
  const fresh = came.data !== undefined && !came.isPlaceholderData && asked === text;
  const rule = read && ruleOf(read);
  const looks = rule?.part === "checks" || rule?.part === "between";
  const look = useLook(bench, looks ? rule : undefined);
  const offers =
    fresh && !quiet && text.trim() !== "" && text !== start
      ? (came.data?.offers ?? []).filter(({ from }) => from <= text.length).slice(0, OFFERED)
      : [];
  const begun = offers[0] !== undefined && offers[0].from < text.length;
  // A line that begins with a sentence has the cursor at its end.
  useEffect(() => {
    box.current?.setSelectionRange(start.length, start.length);
  }, [start]);

  const insert = (place: number) => {
    const offer = offers[place];
    if (!offer) return;
    lines.type(`${text.slice(0, offer.from)}${offer.text} `);
    setChosen(undefined);
  };
  // Tab that came before what could follow is known waits for it, unless one types on.
  const wanted = useRef<string>(undefined);
  useEffect(() => {
    if (!fresh || wanted.current === undefined) return;
    if (wanted.current === text && begun) insert(0);
    wanted.current = undefined;
  });
  lines.take({
    read: (asked) => readSentences(bench, asked),
    settled: bench.turns.settled,
    make,
    busy: (made) => bench.turns.rule(made),
    say: (said) => bench.say(said, true),
    choose: () => box.current?.select(),
    end: () => toEnd(box.current),
  });
  const keys = (e: React.KeyboardEvent) => {
    const move = { ArrowDown: 1, ArrowUp: -1 }[e.key];
    if (move && offers.length > 0) {
      const next = (chosen ?? (move > 0 ? -1 : offers.length)) + move;
      setChosen(next < 0 || next >= offers.length ? undefined : next);
    } else if (e.key === "Enter" && chosen !== undefined) insert(chosen);
    else if (e.key === "Enter") lines.enter(fresh ? came.data : undefined);
    else if (e.key === "Tab" && !e.shiftKey && (chosen !== undefined || begun)) insert(chosen ?? 0);
    else if (e.key === "Tab" && !e.shiftKey && !fresh && !quiet && text.trim()) wanted.current = text;
    else if (e.key === "Escape" && offers.length > 0) lines.hush();
    else if (e.key === "Escape") {
      lines.type(start);
      close?.();
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  // What is only begun is not wrong yet.
  const unfinished = !!read?.unclear && (begun || read.at >= asked.trimEnd().length);
  const words = !read
    ? ""
    : read.unclear === null
      ? [read.said?.text, lookWords(look, bench.form)].filter(Boolean).join(" · ")
      : begun
        ? ""
        : read.unclear;
  const tone = read?.unclear ? (unfinished ? "" : "stop") : "read";
  return (
    <div className="quick-line sentence-line">
      <div className="entry">
        <textarea
          ref={box}
          rows={1}
          aria-label={name}
          aria-autocomplete="list"
          aria-controls={`${id}-offers`}
          aria-describedby={`${id}-says`}
          aria-activedescendant={chosen === undefined ? undefined : `${id}-${chosen}`}
          // biome-ignore lint/a11y/noAutofocus: among the rules one types rules
          autoFocus
          autoComplete="off"
          spellCheck={false}
          placeholder="A rule, such as: pH is 6 to 9, else ask"
          value={text}
          onChange={(e) => {
            lines.type(e.target.value);
            setChosen(undefined);
          }}
          onKeyDown={keys}
        />
        <kbd>Enter</kbd>
      </div>
      <div id={`${id}-offers`} role="listbox" aria-label="What could come next" className="completions">
        {offers.map((offer, place) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the keys are those of the line that is typed in
          <div
            key={offer.text}
            id={`${id}-${place}`}
            role="option"
            aria-selected={place === chosen}
            tabIndex={-1}
            className={offer.name ? "name" : ""}
            onPointerDown={(e) => e.preventDefault()}
            onClick={() => insert(place)}
          >
            {offer.text}
            {place === 0 && begun && <kbd>Tab</kbd>}
          </div>
        ))}
      </div>
      {start === "" && text === "" && came.data && (
        <Examples
          sentences={came.data.examples}
          open={bench.told.length === 0}
          choose={(sentence) => {
            lines.type(sentence);
            box.current?.focus();
          }}
        />
      )}
      {tone === "stop" && read && <Place read={read} />}
      <p id={`${id}-says`} className={`say ${tone}`} aria-live="polite">
        {words}
      </p>
    </div>
  );
}

interface ExamplesProps {
  sentences: string[];
  /** Whether they are seen before one asks for them. */
  open: boolean;
  choose: (sentence: string) => void;
}

/** Rules of this very form that could be typed, each put into the line by a press, to be changed there. */
function Examples({ sentences, open, choose }: ExamplesProps) {
  if (sentences.length === 0) return null;
  return (
    <details className="rule-examples" open={open}>
      <summary>Examples in this form</summary>
      <ul>
        {sentences.map((sentence) => (
          <li key={sentence}>
            <button type="button" title="Puts it into the line" onClick={() => choose(sentence)}>
              {sentence}
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** What is shown before the place. */
const BEFORE = 28;

/** The word that is wrong, where it stands; the sentence below says it to those who cannot see it. */
function Place({ read }: { read: Read }) {
  const { line } = read;
  const place = placeOf(read);
  if (!place) return null;
  const from = Math.max(0, place.at - BEFORE);
  const to = place.at + place.word.length;
  return (
    <p className="unclear" aria-hidden="true">
      {from > 0 && "…"}
      {line.slice(from, place.at)}
      <mark>{place.word}</mark>
      {line.slice(to).trim() && " …"}
    </p>
  );
}

/** Where a line is not understood; where it is and can't be followed, the word that the reason quotes, if it stands there once. */
function placeOf({ line, rule, at, unclear }: Read): { at: number; word: string } | undefined {
  if (rule === null) {
    const word = line.slice(at).match(/^\S+/)?.[0];
    return word ? { at, word } : undefined;
  }
  const word = unclear?.match(/“(.+?)”/)?.[1];
  const found = word ? line.indexOf(word) : -1;
  return word && found >= 0 && found === line.lastIndexOf(word) ? { at: found, word } : undefined;
}
