import { useEffect, useRef, useState } from "react";
import type { RunSheet as Sheet, Table } from "../../api/client";
import { Canvas } from "../Canvas";
import type { BenchDoings } from "../useBench";
import { keepPractice } from "./PracticeList";
import type { Place } from "./place";
import { RunSheet } from "./RunSheet";

interface Props {
  bench: BenchDoings;
  table: Table;
  close: () => void;
  mend: (place: Place) => void;
}

/** A trial of the form: one types into it as at the Desk, and the run sheet tells what a save would do. Nothing is kept. */
export function Rehearsal({ bench, table, close, mend }: Props) {
  const [sheet, setSheet] = useState<Sheet>();
  const [upTo, setUpTo] = useState<number>();
  const [name, setName] = useState<string>();
  const place = useRef<HTMLElement>(null);
  const toForm = () => place.current?.querySelector<HTMLElement>(".canvas input")?.focus();
  // biome-ignore lint/correctness/useExhaustiveDependencies: one begins in the form, once
  useEffect(() => {
    toForm();
  }, []);
  const leave = useRef(close);
  leave.current = () => (name === undefined ? close() : setName(undefined));
  useEffect(() => {
    const pressed = (e: KeyboardEvent) => {
      if (e.key === "Escape" && !document.querySelector(".popup")) leave.current();
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, []);
  const all = sheet?.steps.length ?? 0;
  const keep = () => {
    if (name?.trim() && sheet) {
      keepPractice(bench, name.trim(), sheet);
      setName(undefined);
      toForm();
      bench.say(`${name.trim()} is kept as a practice entry.`);
    }
  };
  return (
    <main className="rehearsal" ref={place}>
      <header className="top">
        <h1>{bench.form.title}</h1>
        <span className="chip writes">
          writes to <span className="font-mono">{table.name}</span>
        </span>
        <span className="chip changes">Rehearsal: nothing is kept</span>
        <span className="flex-1" />
        {name === undefined ? (
          <>
            <button
              type="button"
              className="btn"
              onClick={() => setUpTo(upTo === undefined ? 1 : upTo >= all ? undefined : upTo + 1)}
            >
              {upTo === undefined
                ? "One stage at a time"
                : upTo >= all
                  ? "All at once"
                  : `Next stage (${upTo} of ${all})`}
            </button>
            <button type="button" className="btn" disabled={!sheet} onClick={() => setName("")}>
              Save as practice entry
            </button>
          </>
        ) : (
          <form
            className="flex gap-2"
            onSubmit={(e) => {
              e.preventDefault();
              keep();
            }}
          >
            <input
              className="entry"
              aria-label="Name of the practice entry"
              placeholder="what it tries"
              // biome-ignore lint/a11y/noAutofocus: one asked to name it
              autoFocus
              maxLength={120}
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
            <button type="submit" className="btn go">
              Keep
            </button>
          </form>
        )}
        <button type="button" className="btn" onClick={close}>
          Back to the Bench <kbd>Esc</kbd>
        </button>
      </header>
      <div className="work">
        <Canvas bench={bench} table={table} />
      </div>
      <RunSheet bench={bench} table={table} upTo={upTo} ran={setSheet} mend={mend} />
    </main>
  );
}
