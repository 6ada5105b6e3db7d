import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { X } from "lucide-react";
import { type ClipboardEvent, type KeyboardEvent, useDeferredValue, useState } from "react";
import { useNavigate } from "react-router";
import { answered, api, type Form, type Schemas } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { FormView } from "../form/FormView";
import type { EntryView, Presses } from "../form/view";
import { BringFile } from "../imports/BringFile";
import { upload } from "../imports/upload";
import { Trouble } from "../ui/Trouble";
import { headings } from "./headings";

type Sketched = Schemas["Sketched"];

/** A line that one typed, and whether what its heading tells was refused. */
interface Line {
  text: string;
  plain: boolean;
}

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
    mutationFn: (asked: string[]) =>
      answered(
        api.POST("/api/forms/begun", { body: { lines: asked, title: title.trim() || null, publish: true } }),
      ),
    onSuccess: (form) => {
      queries.invalidateQueries();
      navigate(`/d/${form.id}`);
    },
  });
  const rows = useMutation({
    mutationFn: (text: string) =>
      upload(new File([text], `${title.trim() || "Pasted rows"}.csv`, { type: "text/csv" }), () => {}),
    onSuccess: (report) => {
      queries.setQueryData(queryKeyOf("import", report.id), report);
      navigate(`/imports/${report.id}`, { state: { keying: true } });
    },
  });
  const make = () => {
    if (lines.length > 0 && !unclear && !begun.isPending)
      begun.mutate(lines.map((line, at) => said(line, told[at])));
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
    if (ofRows(text)) rows.mutate(text);
    else setLines([...lines, ...headings(text).map((each) => ({ text: each, plain: false }))]);
  };
  return (
    <div className="begin">
      <section className="begin-typed" aria-label="What is to be entered">
        <div className="quick-line">
          <div className="entry">
            <input
              aria-label="A heading"
              aria-describedby="begin-help"
              // biome-ignore lint/a11y/noAutofocus: the page is there to type here
              autoFocus
              autoComplete="off"
              placeholder={
                lines.length === 0
                  ? "A heading, such as Site, or paste rows"
                  : "The next one, or Enter to begin"
              }
              value={typed}
              onChange={(e) => setTyped(e.target.value)}
              onKeyDown={keys}
              onPaste={pasted}
            />
            <kbd>Enter</kbd>
          </div>
          <p id="begin-help" className="say">
            {lines.length === 0
              ? "Type one heading after the other; what it takes can stand behind it: Score, whole 0 to 100, required. Or paste rows with their headings, as they were copied, or drop a file."
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
        <Trouble error={begun.error ?? rows.error} />
        {rows.isPending && <p role="status">Looking through the rows…</p>}
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
        {lines.length === 0 && <BringFile />}
      </section>
      <section className="begin-form" aria-label="What would be made">
        {sketched && sketched.columns.length > 0 ? (
          <Alive sketched={sketched} />
        ) : (
          <div className="box empty-form">
            <p>The form stands here as soon as there is a heading. You can type into it.</p>
          </div>
        )}
      </section>
    </div>
  );
}

/** A line with what its heading tells, unless that was refused. */
const said = ({ text, plain }: Line, told: Schemas["LineJson"] | undefined) =>
  told?.proposal && !plain ? `${text}, ${told.proposal.say}` : text;

/** Whether a text of lines is rows with their headings: parted alike in every line, and more than one line. */
export function ofRows(text: string): boolean {
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== "");
  if (lines.length < 2) return false;
  return ["\t", ";", ","].some((sign) => {
    const cells = lines.map((line) => line.split(sign).length);
    return (cells[0] ?? 1) > 1 && cells.every((count) => count === cells[0]);
  });
}

/** What would be made of the lines: first as they stand, for what their headings tell, and then with that. */
function useSketch(title: string, lines: Line[]) {
  const sketch = (asked: string[]) => ({
    queryKey: queryKeyOf("begin", title, asked),
    queryFn: ({ signal }: { signal: AbortSignal }) =>
      answered(
        api.POST("/api/forms/begun/read", {
          body: { lines: asked, title: title || null, publish: null },
          signal,
        }),
      ),
    enabled: asked.length > 0,
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
      <b>{line.text.split(",")[0]}</b>
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
          aria-label={`Take ${line.text.split(",")[0]} away`}
          onClick={remove}
        >
          <X size={14} aria-hidden="true" />
        </button>
      )}
    </li>
  );
}

const STILL: Presses = { can: () => false, press: () => {} };

/** The form that would be made, to be tried; nothing of what is typed into it is kept. */
function Alive({ sketched }: { sketched: Sketched }) {
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
