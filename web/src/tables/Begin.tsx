import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { X } from "lucide-react";
import { type ClipboardEvent, type KeyboardEvent, useDeferredValue, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { answered, api, type Schemas } from "../api/client";
import { BringFile } from "../imports/BringFile";
import { Trouble } from "../ui/Trouble";
import { Alive, AliveOf, type Sketched, sketchQuery } from "./Alive";
import { asSaid, headings, type Line, ofRows, said } from "./headings";
import { usePastedRows } from "./Ways";

/**
 * From nothing to the first entry: headings are typed or pasted, rows are pasted with their headings, or a file is dropped.
 * What would be made stands beside, alive, while one types.
 */
export function Begin() {
  const [title, setTitle] = useState("");
  const [lines, setLines] = useState<Line[]>([]);
  const [typed, setTyped] = useState("");
  const navigate = useNavigate();
  const queries = useQueryClient();
  const all = typed.trim() ? [...lines, { text: typed.trim(), plain: false }] : lines;
  const { told, sketched } = useSketch(title, useDeferredValue(all));
  const unclear = told.some((line) => line.unclear);
  const begun = useMutation({
    mutationFn: async (typed: Line[]) => {
      const asked = await asSaid(typed, async (each) => {
        const { lines: read } = await queries.fetchQuery(sketchQuery(title, each));
        return read;
      });
      // What is unclear says so at its line.
      return asked
        ? answered(
            api.POST("/api/forms/begun", {
              body: { lines: asked, title: title.trim() || null, publish: true },
            }),
          )
        : undefined;
    },
    onSuccess: (form) => {
      if (!form) return;
      queries.invalidateQueries();
      navigate(`/d/${form.id}`);
    },
    onSettled: () => {
      making.current = false;
    },
  });
  // Enter that is pressed twice makes one table.
  const making = useRef(false);
  const rows = usePastedRows();
  const make = () => {
    if (lines.length === 0 || making.current) return;
    making.current = true;
    begun.mutate(lines);
  };
  const keys = (e: KeyboardEvent) => {
    if (e.key === "Enter") {
      e.preventDefault();
      if (!typed.trim()) return make();
      setLines(all);
      setTyped("");
    } else if (e.key === "Backspace" && !typed && lines.length > 0) {
      e.preventDefault();
      setTyped(lines.at(-1)?.text ?? "");
      setLines(lines.slice(0, -1));
    }
  };
  const pasted = (e: ClipboardEvent) => {
    const text = e.clipboardData.getData("text").replace(/\s+$/, "");
    if (!/[\n\t]/.test(text)) return;
    e.preventDefault();
    if (ofRows(text)) rows.mutate({ text, title: title.trim() });
    else setLines([...lines, ...headings(text).map((each) => ({ text: each, plain: false }))]);
  };
  const empty = all.length === 0;
  return (
    <div className={`begin ${empty ? "empty" : ""}`}>
      {empty && (
        <>
          <BringFile />
          <Example lines={OF_A_FILE} />
          <section className="way" aria-label="Paste rows with their headings">
            <b>Paste rows with their headings</b>
            <span>as they were copied from anywhere: Ctrl+V in the line below.</span>
            {rows.isPending && <p role="status">Looking through the rows…</p>}
            <Trouble error={rows.error} />
          </section>
          <Example lines={OF_ROWS} />
        </>
      )}
      <section className="begin-typed" aria-label="What is to be entered">
        {empty && <b>Type the headings</b>}
        <div className="quick-line">
          <div className="entry">
            <input
              aria-label="A heading"
              aria-describedby="begin-help"
              // biome-ignore lint/a11y/noAutofocus: the page is there to type here
              autoFocus
              autoComplete="off"
              placeholder={lines.length === 0 ? "A heading, such as Site" : "The next one, or Enter to begin"}
              value={typed}
              onChange={(e) => setTyped(e.target.value)}
              onKeyDown={keys}
              onPaste={pasted}
            />
            <kbd>Enter</kbd>
          </div>
          <p id="begin-help" className="say">
            {lines.length === 0
              ? "One after the other; what a heading takes can stand behind it: Score, whole 0 to 100, required."
              : "Enter once more makes the table and its form, and you key the first entry."}
          </p>
        </div>
        <ol className="begin-lines" aria-label="Headings">
          {all.map((line, at) => (
            <Told
              // biome-ignore lint/suspicious/noArrayIndexKey: two headings may be alike, and their order is theirs
              key={at}
              line={line}
              told={told[at]}
              refuse={() =>
                at < lines.length &&
                setLines(lines.map((each, i) => (i === at ? { ...each, plain: !each.plain } : each)))
              }
              remove={at < lines.length ? () => setLines(lines.filter((_, i) => i !== at)) : undefined}
            />
          ))}
        </ol>
        <Trouble error={begun.error} />
        {lines.length > 0 && (
          <div className="grid gap-3">
            <label className="setting">
              <span>Called</span>
              <input
                className="entry small"
                value={title}
                maxLength={120}
                placeholder={sketched?.table.replaceAll("_", " ") ?? "a name that is free"}
                onChange={(e) => setTitle(e.target.value)}
                onKeyDown={(e) => e.key === "Enter" && make()}
              />
            </label>
            <button
              type="button"
              className="btn go justify-self-start"
              disabled={unclear || begun.isPending}
              onClick={make}
            >
              Begin keying
            </button>
          </div>
        )}
      </section>
      {empty ? (
        <Example lines={OF_HEADINGS} />
      ) : (
        <section className="begin-form" aria-label="What would be made">
          {sketched && sketched.columns.length > 0 && <Alive sketched={sketched} />}
        </section>
      )}
    </div>
  );
}

const OF_A_FILE = ["Site", "Taken on, date", "pH, decimal 0 to 14", "Water, one of clear, cloudy, brown"];
const OF_ROWS = ["Tag", "Pieces, whole 1 to 30", "Shelf, one of A, B, C"];
const OF_HEADINGS = ["Name, required", "Born on, date", "Score, whole 0 to 100"];

/** A form that such a way makes, to be tried. */
function Example({ lines }: { lines: string[] }) {
  return (
    <section className="begin-form" aria-label={`For example, of ${lines.map(word).join(", ")}`}>
      <p className="say">For example, {lines.map(word).join(", ")}</p>
      <AliveOf lines={lines} />
    </section>
  );
}

const word = (line: string) => line.split(",")[0] ?? line;

/** What would be made of the lines: first as they stand, for what their headings tell, and then with that. */
function useSketch(title: string, lines: Line[]) {
  const sketch = (asked: string[]) => ({
    ...sketchQuery(title, asked),
    placeholderData: (before: Sketched | undefined) => before,
  });
  const raw = useQuery(sketch(lines.map(({ text }) => text)));
  const read = lines.length > 0 && raw.data && !raw.isPlaceholderData ? raw.data.lines : [];
  const full = useQuery(sketch(lines.map((line, at) => said(line, read[at]))));
  const told = read.map((line, at) => ({ ...line, words: full.data?.lines[at]?.words ?? line.words }));
  return { told, sketched: lines.length > 0 ? full.data : undefined };
}

interface ToldProps {
  line: Line;
  told: Schemas["LineJson"] | undefined;
  refuse: () => void;
  remove: (() => void) | undefined;
}

function Told({ line, told, refuse, remove }: ToldProps) {
  return (
    <li>
      <b>{word(line.text)}</b>
      <span className={`say ${told?.unclear ? "stop" : ""}`}>
        {told?.unclear ?? told?.words?.replace(/^(new )?column \S+, /, "")}
        {told?.proposal && !line.plain && <>: {told.proposal.why}</>}
      </span>
      {told?.proposal && remove && (
        <button type="button" className="btn small" onClick={refuse}>
          {line.plain ? `As ${told.proposal.say}` : "As text"}
        </button>
      )}
      {remove && (
        <button
          type="button"
          className="btn quiet icon"
          aria-label={`Remove ${word(line.text)}`}
          onClick={remove}
        >
          <X size={14} aria-hidden="true" />
        </button>
      )}
    </li>
  );
}
