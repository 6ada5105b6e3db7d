import { Search } from "lucide-react";
import { useEffect, useState } from "react";
import type { DeskDoings } from "../sitting/useDesk";
import { QUICK } from "./quick";

/** One box that finds across all fields at once. */
export function QuickBox({ desk }: { desk: DeskDoings }) {
  const { browse, find, sitting } = desk;
  const [text, setText] = useState("");
  useEffect(() => setText(browse.ask.any), [browse.ask.any]);
  return (
    <div className="quick">
      <Search size={15} aria-hidden="true" />
      <input
        id={QUICK}
        aria-label="Find in any field"
        placeholder="Find in any field"
        title="Ctrl+Shift+F"
        value={text}
        autoComplete="off"
        spellCheck={false}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={async (e) => {
          if (e.key === "Enter") {
            e.preventDefault();
            if (text.trim()) await find.first({ where: {}, any: text, sort: browse.ask.sort });
            else find.leave();
          } else if (e.key === "Escape") {
            setText("");
            if (browse.ask.any) find.leave();
            sitting.focusFirst();
          }
        }}
      />
    </div>
  );
}
