import { Chips, type Choosable } from "./Chips";
import type { DoorAnswer } from "./useDoor";

interface Props {
  door: DoorAnswer;
  columns: Choosable[];
  change: (part: Partial<DoorAnswer>) => void;
}

/** How many entries are keyed at once, what of them is the same on every line, and what is saved of many. */
export function Keyed({ door, columns, change }: Props) {
  return (
    <>
      <select
        className="entry w-auto!"
        aria-label="How entries are keyed"
        value={door.lines}
        onChange={(e) => change({ lines: e.target.value as DoorAnswer["lines"] })}
      >
        <option value="one">one entry at a time</option>
        <option value="many">many lines at once</option>
        <option value="both">one or many, as they like</option>
      </select>
      {door.lines !== "one" && (
        <>
          <Chips
            label="The same on every line"
            add="Key once for all lines"
            all={columns}
            chosen={door.same}
            change={(same) => change({ same })}
          />
          <p className="text-[13.5px] text-soft">
            What is keyed once, above the lines. Without any, it is what the form carries over.
          </p>
          <label className="tick">
            <input
              type="checkbox"
              checked={door.keep === "passing"}
              onChange={(e) => change({ keep: e.target.checked ? "passing" : "all" })}
            />
            save the lines that pass, and let the others stay
          </label>
        </>
      )}
    </>
  );
}
