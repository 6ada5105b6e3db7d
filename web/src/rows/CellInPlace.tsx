import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import type { Choice, Column, FormField } from "../api/client";
import { FieldInput } from "../form/FieldInput";

/** What is in the way of a correction, in a sentence; where it only asks, the answers that keep it all the same. */
export interface InTheWay {
  message: string;
  answers: Record<string, string> | undefined;
}

/** What was keyed before the cell was there: in its place, and whether it is kept at once. */
export interface Ahead {
  text: string | undefined;
  keep: boolean;
}

interface Props {
  field: FormField;
  column: Column;
  row: number;
  /** What it holds, as it would be typed. */
  text: string;
  ahead: Ahead;
  list: ((column: string, typed: string) => Promise<Choice[]>) | undefined;
  /** Keeps what is typed; says what is in the way, if anything is. */
  keep: (typed: string, answers: Record<string, string>) => Promise<InTheWay | undefined>;
  close: () => void;
}

/** A cell of the rows that is corrected in place: Enter keeps it, Esc leaves it as it was. */
export function CellInPlace({ field, column, row, text, ahead, list, keep, close }: Props) {
  const [typed, setTyped] = useState(ahead.text ?? text);
  const [inTheWay, setInTheWay] = useState<InTheWay>();
  // A list that hangs open would hide what is said; it is closed by drawing the input anew.
  const [told, setTold] = useState(0);
  const busy = useRef(false);
  const id = "cell-in-place";
  useEffect(() => {
    const input = document.getElementById(id);
    input?.focus();
    if (told === 0 && ahead.text === undefined && input instanceof HTMLInputElement) input.select();
  }, [told, ahead]);
  const pressed = async (e: KeyboardEvent) => {
    const listed = (e.target as HTMLElement).getAttribute("aria-expanded") === "true";
    if (e.key === "Escape" && !listed) {
      e.preventDefault();
      e.stopPropagation();
      close();
    }
    const choosing = listed && document.querySelector('[role="option"][data-focused]');
    if (e.key !== "Enter" || choosing || e.nativeEvent.isComposing) return;
    e.preventDefault();
    e.stopPropagation();
    await kept();
  };
  const kept = async () => {
    if (busy.current) return;
    if (typed.trim() === text.trim()) return close();
    busy.current = true;
    const found = await keep(typed, inTheWay?.answers ?? {});
    busy.current = false;
    if (!found) return close();
    setInTheWay(found);
    setTold((times) => times + 1);
  };
  const latest = useRef(kept);
  latest.current = kept;
  useEffect(() => {
    if (ahead.keep) latest.current();
  }, [ahead]);
  return (
    <div className="form cell-in-place" onKeyDownCapture={pressed}>
      <FieldInput
        key={told}
        id={id}
        text={typed}
        type={(now) => {
          setTyped(now);
          setInTheWay(undefined);
        }}
        value={undefined}
        field={field}
        choices={column.choices ?? []}
        list={list}
        aria={{
          "aria-describedby": inTheWay ? "cell-in-place-said" : undefined,
          "aria-invalid": (inTheWay && !inTheWay.answers) || undefined,
          "aria-required": undefined,
          readOnly: undefined,
          tabIndex: undefined,
          placeholder: undefined,
          "aria-label": `${field.label}, row ${row}`,
        }}
      />
      {inTheWay && (
        <p id="cell-in-place-said" role="alert" className={`say ${inTheWay.answers ? "ask" : "stop"}`}>
          {inTheWay.message}
          {inTheWay.answers && (
            <>
              {" "}
              <kbd>Enter</kbd> keeps it all the same.
            </>
          )}
        </p>
      )}
    </div>
  );
}
