import { useEffect, useRef } from "react";
import { inputId } from "../form/FieldView";
import type { SittingDoings } from "../sitting/useSitting";
import { Cover } from "../ui/Cover";

/** Puts what asks before a save. Going back is what Enter does, unless a question's builder chose another answer. */
export function Asks({ sitting }: { sitting: SittingDoings }) {
  const { question, asked: over, entry, say } = sitting;
  const first = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (question) first.current?.focus();
  }, [question]);
  if (!question) return null;
  const { findings, usual, answered } = question;
  const [one] = findings;
  const asked = one?.code === "question";
  const close = () => {
    over();
    say("Nothing was saved yet.");
    const column = one?.field || sitting.fields[0]?.column;
    setTimeout(() => document.getElementById(inputId(column ?? ""))?.focus());
  };
  const answer = (word: string) => {
    over();
    entry.answer(Object.fromEntries(findings.map(({ rule, code }) => [rule || code, word])));
    answered();
  };
  const is = (word: string) => (usual === word ? { ref: first, className: "btn go" } : { className: "btn" });
  return (
    <Cover name={asked ? "A question" : "Save all the same?"} close={close}>
      <div className="grid gap-3 p-5">
        <h2>{asked ? one.message : "Save all the same?"}</h2>
        {!asked &&
          findings.map(({ rule, field, lines, line, message }) => (
            <p key={[rule, field, lines, line].join(" ")}>
              {line ? `Line ${line}: ` : ""}
              {message}
            </p>
          ))}
        <div className="flex gap-3">
          {asked ? (
            <>
              <button type="button" {...is("yes")} onClick={() => answer("yes")}>
                Yes {usual === "yes" && <kbd>Enter</kbd>}
              </button>
              <button type="button" {...is("no")} onClick={() => answer("no")}>
                No {usual === "no" && <kbd>Enter</kbd>}
              </button>
              <button type="button" {...is("cancel")} onClick={close}>
                Cancel <kbd>Esc</kbd>
              </button>
            </>
          ) : (
            <>
              <button type="button" className="btn go" ref={first} onClick={close}>
                Go back <kbd>Enter</kbd>
              </button>
              <button type="button" className="btn" onClick={() => answer("yes")}>
                Save all the same
              </button>
            </>
          )}
        </div>
      </div>
    </Cover>
  );
}
