import { useState } from "react";
import type { Table } from "../../api/client";
import { Row } from "../settings";
import type { BenchDoings } from "../useBench";
import { FormulaInput } from "./FormulaInput";

interface PieceProps {
  name: string;
  value: string;
  set: (value: string) => void;
}

/** A text that is kept when one leaves it or presses Enter; Esc puts it back. */
export function TextPiece({ name, value, set, none, rows }: PieceProps & { none?: string; rows?: number }) {
  const [typed, setTyped] = useState<string>();
  const keep = () => {
    if (typed !== undefined && typed !== value) set(typed);
    setTyped(undefined);
  };
  const Box = rows ? "textarea" : "input";
  return (
    <Row name={name}>
      <Box
        className={`entry small ${rows ? "tall" : ""}`}
        rows={rows}
        aria-label={name}
        value={typed ?? value}
        placeholder={none}
        maxLength={rows ? 20_000 : 400}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => {
          if (e.key === "Enter" && !rows) keep();
          else if (e.key === "Escape" && typed !== undefined) setTyped(undefined);
          else return;
          e.preventDefault();
          e.stopPropagation();
        }}
      />
    </Row>
  );
}

/** A formula, kept when one leaves it; what it comes to for the draft is told while it is typed. */
export function FormulaPiece({
  name,
  value,
  set,
  none,
  bench,
  table,
}: PieceProps & { none?: string; bench: BenchDoings; table: Table }) {
  const [typed, setTyped] = useState<string>();
  return (
    <Row name={name}>
      <div
        onBlur={(e) => {
          if (e.currentTarget.contains(e.relatedTarget) || typed === undefined) return;
          if (typed !== value) set(typed);
          setTyped(undefined);
        }}
      >
        <FormulaInput
          name={name}
          value={typed ?? value}
          set={setTyped}
          bench={bench}
          table={table}
          none={none}
        />
      </div>
    </Row>
  );
}

interface SegmentsProps<K extends string> {
  name: string;
  value: K;
  choices: Record<K, string>;
  set: (value: K) => void;
}

/** One of a few words. */
export function Segments<K extends string>({ name, value, choices, set }: SegmentsProps<K>) {
  return (
    <fieldset className="segments" aria-label={name}>
      <legend>{name}</legend>
      <div>
        {(Object.entries(choices) as [K, string][]).map(([key, words]) => (
          <button
            key={key}
            type="button"
            className={key}
            aria-pressed={value === key}
            onClick={() => key !== value && set(key)}
          >
            {words}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

/** Yes or no. */
export function Flag({ name, value, set }: { name: string; value: boolean; set: (value: boolean) => void }) {
  return (
    <label className="flex items-center gap-2 text-[14px]">
      <input
        type="checkbox"
        className="checkbox checkbox-sm"
        checked={value}
        onChange={(e) => set(e.target.checked)}
      />
      {name}
    </label>
  );
}
