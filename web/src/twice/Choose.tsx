import { useEffect, useRef } from "react";
import type { Schemas } from "../api/client";

interface Props {
  label: string;
  both: Schemas["BothJson"];
  choose: (which: "first" | "second") => void;
}

/** Both keyings of a field, one of which holds: chosen by a digit, or as any two buttons. */
export function Choose({ label, both, choose }: Props) {
  const box = useRef<HTMLFieldSetElement>(null);
  useEffect(() => box.current?.querySelector<HTMLElement>("button")?.focus(), []);
  const ways = [
    ["first", "First keying", both.firstWords],
    ["second", "Your keying", both.secondWords],
  ] as const;
  return (
    <fieldset
      className="choose"
      ref={box}
      onKeyDown={(e) => {
        const way = ways[Number(e.key) - 1];
        const all = [...(box.current?.querySelectorAll("button") ?? [])];
        const by = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[e.key];
        if (way) choose(way[0]);
        else if (by) all[(all.indexOf(document.activeElement as HTMLButtonElement) + by + 2) % 2]?.focus();
        else return;
        e.preventDefault();
      }}
    >
      <legend>{label} was keyed twice so, and differs. Look at the paper: which one holds?</legend>
      {ways.map(([which, name, words], at) => (
        <button key={which} type="button" className="btn" onClick={() => choose(which)}>
          <kbd>{at + 1}</kbd> <span className="name">{name}</span>{" "}
          <span className="value">{words || "empty"}</span>
        </button>
      ))}
    </fieldset>
  );
}
