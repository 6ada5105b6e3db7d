import type { Schemas } from "../../api/client";
import type { BenchDoings } from "../useBench";

/** A rule as one reads it: what it does in its colour, fields with the ends of their threads. */
export function Said({ rule, threads }: { rule: Schemas["RuleJson"]; threads: BenchDoings["threads"] }) {
  return (
    <span className="said-rule">
      {rule.pieces.map((piece, place) => {
        const thread = piece.kind === "field" ? threads.get(piece.about) : undefined;
        return (
          <span
            // biome-ignore lint/suspicious/noArrayIndexKey: the pieces of a sentence have no names of their own
            key={place}
            className={`${piece.kind} ${thread === undefined ? "" : `thread-${thread}`}`}
          >
            {piece.text}
          </span>
        );
      })}
    </span>
  );
}
