import { Search } from "lucide-react";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { Door } from "../api/client";
import { DoorRow } from "./DoorRow";
import { found, inOrder, type Listed } from "./order";

/** So many fit with room between them; more of them stand closer. */
const AIRY = 11;

/** Every door one may go through: found by typing, and by the arrow keys from one to the next. */
export function DoorList({ doors, lost }: { doors: Door[]; lost: (form: string) => string[] }) {
  const [typed, setTyped] = useState("");
  const navigate = useNavigate();
  const frame = useRef<HTMLDivElement>(null);
  const line = useRef<HTMLInputElement>(null);
  useEffect(() => {
    // A day begins by going through a door; whoever went elsewhere while the doors came stays there.
    if (document.activeElement === document.body) line.current?.focus();
  }, []);
  const { last, all } = inOrder(doors);
  const groups: [string, Listed[]][] = typed.trim()
    ? [["Found", found([...last, ...all], typed)]]
    : [
        ["Where you were last", last],
        [last.length > 0 ? "All others" : "All", all],
      ];
  const [first] = groups.flatMap(([, listed]) => listed);
  /** From the line to the first door, and from door to door; a letter goes on in the line. */
  const keys = (e: KeyboardEvent) => {
    const stops = [...(frame.current?.querySelectorAll<HTMLElement>("input, a.door") ?? [])];
    const at = stops.indexOf(e.target as HTMLElement);
    const by = { ArrowDown: 1, ArrowUp: -1 }[e.key];
    if (by && at >= 0) {
      e.preventDefault();
      stops[Math.max(0, Math.min(stops.length - 1, at + by))]?.focus();
    } else if (at > 0 && e.key.length === 1 && !e.ctrlKey && !e.altKey && !e.metaKey && e.key !== " ")
      stops[0]?.focus();
  };
  return (
    <div
      ref={frame}
      className={`door-list ${doors.length > AIRY ? "close" : ""}`}
      onKeyDown={keys}
      role="presentation"
    >
      <form
        className="door-typed"
        onSubmit={(e) => {
          e.preventDefault();
          if (first) navigate(`/d/${first.door.id}`);
        }}
      >
        <Search size={18} aria-hidden="true" />
        <input
          aria-label="Find a door"
          placeholder="Type to find a door, Enter goes in"
          ref={line}
          autoComplete="off"
          spellCheck={false}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onKeyDown={(e) => e.key === "Escape" && setTyped("")}
        />
      </form>
      {groups
        .filter(([, listed]) => listed.length > 0)
        .map(([name, listed]) => (
          <section key={name} aria-label={name}>
            <h2>{name}</h2>
            <ul>
              {listed.map((each) => (
                <DoorRow
                  key={each.door.id}
                  listed={each}
                  first={each === first}
                  lost={lost(each.door.form)}
                />
              ))}
            </ul>
          </section>
        ))}
      {!first && <p role="status">No door of yours is called so. Esc shows all of them.</p>}
    </div>
  );
}
