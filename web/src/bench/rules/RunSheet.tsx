import { useEffect, useRef, useState } from "react";
import {
  answered,
  api,
  type Finding,
  type Schemas,
  type RunSheet as Sheet,
  type Table,
} from "../../api/client";
import { counted } from "../../model/counted";
import { shown } from "../../model/shown";
import { useSubscribed } from "../../model/useSubscribed";
import type { BenchDoings } from "../useBench";
import { PracticeList } from "./PracticeList";
import { type Place, placeOf } from "./place";

const RUN_AFTER = 150;
const STAGES: [string[], string][] = [
  [["read"], "Read"],
  [["fill", "formula"], "Fill and work out"],
  [["check"], "Check"],
  [["after"], "Afterwards"],
];
const SIGNS: Record<Schemas["TraceMark"], string> = {
  done: "✓",
  silent: "–",
  ask: "?",
  stop: "!",
  fault: "✕",
};

interface Props {
  bench: BenchDoings;
  table: Table;
  /** How many lines are shown; all where nothing is said. */
  upTo: number | undefined;
  ran: (sheet: Sheet) => void;
  /** Leaves for where something is set. */
  mend: (place: Place) => void;
}

/** What a save of the draft would do, stage by stage, against the real data, with nothing kept. */
export function RunSheet({ bench, table, upTo, ran, mend }: Props) {
  const { entry, form } = bench;
  const { typed, answers, chosen } = useSubscribed(entry);
  const revision = bench.state?.revision;
  const [sheet, setSheet] = useState<Sheet>();
  const [trouble, setTrouble] = useState("");
  const told = useRef(ran);
  told.current = ran;
  // biome-ignore lint/correctness/useExhaustiveDependencies: a kept change of the rules is another run
  useEffect(() => {
    const timer = setTimeout(() => {
      answered(
        api.POST("/api/forms/{form}/bench/rehearse", {
          params: { path: { form: form.id } },
          body: { values: typed, answers, chosen },
        }),
      )
        .then((came) => {
          setSheet(came);
          setTrouble("");
          told.current(came);
        })
        .catch((e: Error) => setTrouble(e.message));
    }, RUN_AFTER);
    return () => clearTimeout(timer);
  }, [typed, answers, chosen, form.id, revision]);
  const stops = sheet?.findings.some((finding) => finding.severity === "stop");
  const asks = sheet?.findings.filter((finding) => finding.severity === "ask") ?? [];
  const outcome = !sheet ? "" : stops ? "would be stopped" : asks.length > 0 ? "would ask" : "would be saved";
  const micros = sheet?.steps.reduce((sum, line) => sum + line.micros, 0) ?? 0;
  const lines = sheet?.steps.slice(0, upTo) ?? [];
  const types = new Map(table.columns.map((column) => [column.name, column.type]));
  // What is the matter is in view, and so is the stage that was asked for last.
  const list = useRef<HTMLDivElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another run, or another stage of it
  useEffect(() => {
    const all = [...(list.current?.querySelectorAll(".stage") ?? [])];
    const wanted = upTo === undefined ? all.find((each) => !each.classList.contains("done")) : all.at(-1);
    wanted?.scrollIntoView({ block: "nearest" });
  }, [sheet, upTo]);
  return (
    <aside className="run" aria-label="Run sheet">
      <h2>
        Run sheet{" "}
        <span className={`chip ${stops ? "stop" : asks.length > 0 ? "ask" : "ok"}`} role="status">
          {outcome}
        </span>
      </h2>
      <p className="text-soft text-[13px]">
        against today’s {counted(table.rows, "row")} · {ms(micros)}
      </p>
      <p className="say stop">{trouble}</p>
      <div className="run-lines" ref={list}>
        {STAGES.map(([stages, name]) => {
          const own = lines.filter((line) => stages.includes(line.stage));
          if (own.length === 0) return null;
          return (
            <section key={name} aria-label={name}>
              <h3>{name}</h3>
              {own.map((line, place) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: lines stand in the order in which they happened
                <Line key={place} line={line} place={placeOf(form, line)} mend={mend} />
              ))}
            </section>
          );
        })}
        {asks.map((finding: Finding) => (
          <div key={finding.rule + finding.code} className="answers">
            <span>{finding.message}</span>
            {(finding.code === "question" ? ["yes", "no", "cancel"] : ["yes"]).map((word) => (
              <button
                key={word}
                type="button"
                className="btn small"
                onClick={() => entry.answer({ [finding.rule || finding.code]: word })}
              >
                Answer {word}
              </button>
            ))}
          </div>
        ))}
      </div>
      {sheet && upTo === undefined && sheet.writes.length > 0 && (
        <section className="writes" aria-label="Write">
          <h3>{sheet.row === null ? "Write, if it were let through" : "Write, if it were kept"}</h3>
          {sheet.writes.map((write, place) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: they are written in this order
            <div key={place} className="write">
              <b>
                {write.what === "message"
                  ? "a message"
                  : `${write.table}, ${write.row === null ? "a row more" : `row ${write.row}`}`}
              </b>{" "}
              {write.what === "added" ? "handed on" : write.what === "changed" ? "changed" : ""}
              <span className="font-mono">
                {Object.entries(write.values)
                  .map(([column, value]) => shown(value, write.table === table.name ? types.get(column) : ""))
                  .filter(Boolean)
                  .join(" · ")}
              </span>
            </div>
          ))}
        </section>
      )}
      <PracticeList bench={bench} />
    </aside>
  );
}

interface LineProps {
  line: Sheet["steps"][number];
  place: Place | undefined;
  mend: (place: Place) => void;
}

/** A line of the run sheet: its field is a press away, and so is the rule where something is the matter. */
function Line({ line, place, mend }: LineProps) {
  const field = document.getElementById(`field-${line.about}`);
  return (
    <div className={`stage ${line.mark}`}>
      <span className="sign" aria-hidden="true">
        {SIGNS[line.mark]}
      </span>
      <span>
        {field ? (
          <button type="button" className="tied" title="To its field" onClick={() => field.focus()}>
            {line.text}
          </button>
        ) : (
          line.text
        )}{" "}
        {place && line.mark !== "done" && line.mark !== "silent" && (
          <button type="button" className="link" onClick={() => mend(place)}>
            Go to {place.name}
          </button>
        )}
      </span>
      <small>{ms(line.micros)}</small>
    </div>
  );
}

const ms = (micros: number) => `${(micros / 1000).toFixed(1)} ms`;
