import { useEffect, useRef } from "react";
import type { Finding, DeskForm as Form } from "../api/client";
import type { Question } from "../entry/sitting";
import type { DeskDoings } from "../sitting/useDesk";
import { FieldPlot } from "./FieldPlot";

/** So many things are named; the others are counted. */
const NAMED = 3;

/**
 * What is in the way of what was to be saved, in the form and not over it. It never takes the cursor, and no key but those that stand
 * on its buttons.
 */
export function Refused({ desk, form, question }: { desk: DeskDoings; form: Form; question: Question }) {
  const { findings, usual, answer, back } = question;
  const { fields } = desk.sitting;
  const bar = useRef<HTMLDivElement>(null);
  useEffect(() => {
    bar.current?.scrollIntoView({ block: "nearest" });
  }, []);
  const [one] = findings;
  const asked = one?.code === "question";
  const label = fields.find(({ column }) => column === one?.field)?.label;
  const given = (word: string) => () =>
    answer?.(Object.fromEntries(findings.map(({ rule, code }) => [rule || code, word])));
  const yes = usual === "no" || usual === "cancel" ? "btn" : "btn go";
  return (
    <div
      ref={bar}
      className={`refused ${answer ? "asks" : ""}`}
      role="alert"
      aria-label={answer ? "Asked about" : "Not saved"}
    >
      <span className="what">
        {findings.length === 0 ? question.message : findings.slice(0, NAMED).map(said).join(" ")}
        {findings.length > NAMED && ` And ${findings.length - NAMED} more.`}
        {findings.map((finding) => (
          <FieldPlot key={finding.rule} form={form} finding={finding} />
        ))}
      </span>
      {answer && (
        <button type="button" className={yes} onClick={given("yes")}>
          {asked ? "Yes" : "Save it so"} <kbd>Alt Y</kbd>
        </button>
      )}
      {answer && asked && (
        <button type="button" className={usual === "no" ? "btn go" : "btn"} onClick={given("no")}>
          No <kbd>Alt Z</kbd>
        </button>
      )}
      <button type="button" className={answer ? "btn" : "btn go"} onClick={back}>
        {asked ? "Cancel" : `Back to ${label ?? "the entry"}`} <kbd>Alt B</kbd>
      </button>
      <span className="hint">
        {question.key || !desk.sitting.state.record
          ? "or type the next entry: this one waits in the tray"
          : "or type on: nothing is saved yet"}
      </span>
    </div>
  );
}

const said = ({ line, message }: Finding) => (line ? `Line ${line}: ${message}` : message);
