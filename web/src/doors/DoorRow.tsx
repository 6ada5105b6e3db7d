import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Door } from "../api/client";
import { leftOver } from "../entry/drafts";
import { unanswered } from "../entry/outbox";
import { usedInWords } from "../entry/used";
import { counted, grouped } from "../model/counted";
import { twiceQuery } from "../twice/twiceQuery";
import type { Listed } from "./order";
import { may } from "./words";

/** A door in the list of all: what may be done there, what waits there for this person, and when they were there or how many rows it has. */
export function DoorRow({ listed, first, lost }: { listed: Listed; first: boolean; lost: string[] }) {
  const { door, title, used } = listed;
  return (
    <li className={`door-row ${first ? "on" : ""}`}>
      <Link to={`/d/${door.id}`} className="door">
        {title}
      </Link>
      <span className="may">{ways(door)}</span>
      <span className="waits">
        <Waits door={door} title={title} />
        {lost.length > 0 && (
          <Link
            className="n r"
            to={`/bench/${door.form}`}
            title={`${lost.join(", ")}: hidden, as there is no such column any more`}
            aria-label={`${title}: ${lost.length === 1 ? "a column is gone" : `${lost.length} columns are gone`}`}
          >
            {lost.length === 1 ? "a column is gone" : `${lost.length} columns are gone`}
          </Link>
        )}
      </span>
      <span className="when">
        {used ? usedInWords(used) : door.rows != null && counted(door.rows, "row")}
      </span>
      {!door.byLink && (
        <Link className="work" to={`/d/${door.id}/work`} aria-label={`The work, ${title}`}>
          The work
        </Link>
      )}
    </li>
  );
}

/** What may be done there, and how. */
function ways(door: Door): string {
  return [may(door.may), door.lines === "many" && "many lines", door.twice && "keyed twice"]
    .filter(Boolean)
    .join(", ");
}

/** What waits at a door for this person, each with its number and the way there. */
function Waits({ door, title }: { door: Door; title: string }) {
  const waits = useQuery({ ...twiceQuery(door.id), enabled: !!door.twice }).data;
  const open = unanswered(door.id);
  const aside = leftOver(door.id).length;
  const all = [
    { many: open, to: "", words: `${open} not saved yet` },
    { many: aside, to: "", words: `${aside} put aside` },
    {
      many: waits?.keys ? waits.waiting : 0,
      to: "/twice",
      words: `${grouped(waits?.waiting ?? 0)} to key again`,
    },
    {
      many: waits?.settles ? waits.settling : 0,
      to: "/settle",
      words: `${grouped(waits?.settling ?? 0)} to settle`,
    },
  ];
  return all
    .filter(({ many }) => many > 0)
    .map(({ to, words }) => (
      <Link key={words} className="n" to={`/d/${door.id}${to}`} aria-label={`${words}, ${title}`}>
        {words}
      </Link>
    ));
}
