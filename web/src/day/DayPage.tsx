import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { Link } from "react-router";
import { answered, api, type Schemas } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { dayQuery, doorsQuery, formsQuery } from "../api/queries";
import { titleOf } from "../doors/order";
import { unanswered } from "../entry/outbox";
import { deskFinding, just } from "../find/address";
import { grouped } from "../model/counted";
import { builds, sessionQuery } from "../people/session";
import { Trouble } from "../ui/Trouble";
import "./day.css";

type Door = Schemas["DoorsDay"];

const WHEN = new Intl.DateTimeFormat("en-GB", {
  weekday: "short",
  day: "numeric",
  month: "short",
  hour: "2-digit",
  minute: "2-digit",
});
/** What a day begins with: what came in, what waits, what was changed and removed, since one last looked. */
export function DayPage() {
  const came = useQuery({ ...dayQuery, staleTime: 0 });
  const doors = useQuery(doorsQuery).data ?? [];
  const open = doors.map((door) => ({ door, many: unanswered(door.id) })).filter(({ many }) => many > 0);
  const building = builds(useQuery(sessionQuery).data?.person);
  const lost = (useQuery({ ...formsQuery, enabled: building }).data ?? []).filter(
    (form) => form.lost.length > 0,
  );
  const queries = useQueryClient();
  const day = came.data;
  const done = useRef<HTMLButtonElement>(null);
  const told = day !== undefined;
  useEffect(() => {
    if (told && document.activeElement === document.body) done.current?.focus();
  }, [told]);
  const again = () => queries.invalidateQueries({ queryKey: queryKeyOf("day") });
  const seen = () =>
    day && answered(api.POST("/api/day/seen", { body: { until: day.until } })).finally(again);
  const mail = (on: boolean) => answered(api.PUT("/api/day/mail", { body: { on } })).finally(again);
  return (
    <main className="place">
      <header className="top">
        <h1>The day</h1>
        {day && (
          <span className="chip">
            {day.first ? "the last day, since " : "since you looked, "}
            {WHEN.format(new Date(day.since))}
          </span>
        )}
        <span className="flex-1" />
        <Link className="btn quiet" to="/">
          Doors
        </Link>
        <button ref={done} type="button" className="btn go" onClick={seen} disabled={!day}>
          I have seen this
        </button>
      </header>
      <div className="overflow-auto p-5">
        <Trouble error={came.error} />
        {open.length > 0 && (
          <p className="box mb-4 max-w-prose p-4">
            Not saved yet, and kept in this browser:{" "}
            {open.map(({ door, many }, at) => (
              <span key={door.id}>
                {at > 0 && ", "}
                <Link className="text-indigo underline underline-offset-2" to={`/d/${door.id}`}>
                  {many === 1 ? "1 entry" : `${grouped(many)} entries`} at {titleOf(door)}
                </Link>
              </span>
            ))}
            .
          </p>
        )}
        {lost.length > 0 && (
          <p className="box mb-4 max-w-prose p-4">
            Hidden in published forms, as there is no such column any more:{" "}
            {lost.map(({ id, title, lost: labels }, at) => (
              <span key={id}>
                {at > 0 && "; "}
                {labels.join(", ")} in{" "}
                <Link className="text-indigo underline underline-offset-2" to={`/bench/${id}`}>
                  {title}
                </Link>
              </span>
            ))}
            .
          </p>
        )}
        {day?.doors.length === 0 && open.length === 0 && (
          <p className="box max-w-prose p-4">Nothing came in since, and nothing waits for you.</p>
        )}
        <ul className="day-doors">
          {day?.doors.map((door) => (
            <li key={door.door} className="box">
              <h2>
                <Link to={`/d/${door.door}`}>{door.title}</Link>
                {door.title !== door.form && <span className="chip">{door.form}</span>}
              </h2>
              <Told door={door} since={day.since} />
            </li>
          ))}
        </ul>
        {day && (
          <label className="tick mt-4">
            <input
              type="checkbox"
              checked={day.mail}
              disabled={!day.address}
              onChange={(e) => mail(e.target.checked)}
            />
            {day.address
              ? `send it to ${day.address} each morning`
              : "send it each morning: no e-mail address of yours is known"}
          </label>
        )}
      </div>
    </main>
  );
}

/** What there is to tell of a door, each the way to its records. */
function Told({ door, since: day }: { door: Door; since: string }) {
  const at = `/d/${door.door}`;
  const find = (...where: string[]) => deskFinding(at, where);
  const since = `>=${day}`;
  return (
    <dl>
      {door.came.count > 0 && (
        <Line figure={inWords(door.came)} to={find(`_entered_at:${since}`)}>
          came in
        </Line>
      )}
      {door.changed.length > 0 && (
        <Line
          figure={sum(door.changed)}
          to={find(`_changed_at:${since}`)}
          more={
            <By all={door.changed} to={(name) => find(`_changed_at:${since}`, `_changed_by:${just(name)}`)} />
          }
        >
          changed
        </Line>
      )}
      {door.removed.length > 0 && (
        <Line
          figure={sum(door.removed)}
          to={door.removes ? `${at}?${new URLSearchParams({ removed: day })}` : undefined}
          more={<By all={door.removed} />}
        >
          removed
        </Line>
      )}
      {door.keying > 0 && (
        <Line figure={grouped(door.keying)} to={`${at}/twice`}>
          wait for their second keying
        </Line>
      )}
      {door.settling > 0 && (
        <Line figure={grouped(door.settling)} to={`${at}/settle`}>
          to settle
        </Line>
      )}
      {door.finds.map((each) => (
        <Line key={each.name} figure={inWords(each.there)} to={deskFinding(at, each.where, each.any)}>
          {each.name}
        </Line>
      ))}
    </dl>
  );
}

const inWords = ({ count: many, exact }: Schemas["TotalJson"]) => (exact ? "" : "about ") + grouped(many);
const sum = (list: { times: number }[]) => grouped(list.reduce((all, { times }) => all + times, 0));

/** How many by whom, each the way to theirs. */
function By({ all, to }: { all: Door["changed"]; to?: (name: string) => string }) {
  return all.map(({ name, title, times }, place) => (
    <span key={name}>
      {place > 0 && ", "}
      {to ? (
        <Link to={to(name)}>
          {grouped(times)} by {title}
        </Link>
      ) : (
        `${grouped(times)} by ${title}`
      )}
    </span>
  ));
}

interface LineProps {
  figure: string;
  to?: string | undefined;
  more?: React.ReactNode;
  children: React.ReactNode;
}

function Line({ figure, to, more, children }: LineProps) {
  return (
    <div>
      <dt>{to ? <Link to={to}>{children}</Link> : children}</dt>
      <dd>{figure}</dd>
      {more && <dd className="more">{more}</dd>}
    </div>
  );
}
