import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useRef } from "react";
import { Link, useNavigate } from "react-router";
import type { Door } from "../api/client";
import { doorsQuery } from "../api/queries";
import { unanswered } from "../entry/outbox";
import { builds, sessionQuery } from "../people/session";
import { twiceQuery } from "../twice/twiceQuery";
import { Trouble } from "../ui/Trouble";
import { may } from "./words";

const Begin = lazy(() => import("../tables/Begin").then((m) => ({ default: m.Begin })));
const BringFile = lazy(() => import("../imports/BringFile").then((m) => ({ default: m.BringFile })));

/** Whether one has been somewhere since the page was loaded; who has not is taken to where the work is. */
let arrived = false;

/** Where a day begins: the doors one may go through, and for builders the way to a new form. */
export function Doors() {
  const doors = useQuery(doorsQuery);
  const building = builds(useQuery(sessionQuery).data?.person);
  const navigate = useNavigate();
  useEffect(() => {
    if (!doors.data || arrived) return;
    arrived = true;
    const opening =
      doors.data.find((door) => door.opens) ?? (doors.data.length === 1 ? doors.data[0] : undefined);
    if (opening && !building) navigate(`/d/${opening.id}`, { replace: true });
  }, [doors.data, building, navigate]);
  if (building && doors.data?.length === 0) {
    return (
      <main className="place">
        <header className="top">
          <h1>What is to be entered?</h1>
        </header>
        <Suspense fallback={null}>
          <Begin />
        </Suspense>
      </main>
    );
  }
  return (
    <main className="place">
      <header className="top">
        <h1>Doors</h1>
        <span className="flex-1" />
        {doors.data?.some((door) => door.may.includes("see")) && (
          <Link className="btn" to="/day">
            The day
          </Link>
        )}
      </header>
      <div className="overflow-auto p-5">
        <Trouble error={doors.error} />
        <div className={`grid max-w-6xl gap-6 ${building ? "lg:grid-cols-[minmax(0,1fr)_360px]" : ""}`}>
          <section aria-label="Doors you may go through">
            {doors.data?.length === 0 && (
              <p className="max-w-prose">
                No door is open to you yet. Whoever invited you can let you through one.
              </p>
            )}
            <ul className="grid gap-3 sm:grid-cols-2">
              {doors.data?.map((door, at) => (
                <li key={door.id} className="grid gap-1">
                  <Way door={door} first={at === 0} />
                  <MoreWays door={door} />
                </li>
              ))}
            </ul>
          </section>
          {building && (
            <section className="box h-fit p-4" aria-labelledby="bring">
              <h2 id="bring" className="mb-3">
                Bring a file of rows
              </h2>
              <Suspense fallback={null}>
                <BringFile />
              </Suspense>
              <p className="mt-4 text-soft">
                No file?{" "}
                <Link className="text-indigo underline underline-offset-2" to="/tables/new">
                  Make a table from headings or pasted rows
                </Link>
                .
              </p>
            </section>
          )}
        </div>
      </div>
    </main>
  );
}

/** What else there is to do by a door: to key papers again and settle them, and to see how the work goes. */
function MoreWays({ door }: { door: Door }) {
  const waits = useQuery({ ...twiceQuery(door.id), enabled: !!door.twice }).data;
  if (door.byLink) return null;
  const open = unanswered(door.id);
  const ways = [
    open > 0 && {
      to: "",
      words: open === 1 ? "1 entry is not saved yet" : `${open} entries are not saved yet`,
    },
    waits?.keys && {
      to: "twice",
      words: `Second keying${waits.waiting > 0 ? `: ${waits.waiting} wait` : ""}`,
    },
    waits?.settles && waits.settling > 0 && { to: "settle", words: `${waits.settling} to settle` },
    { to: "work", words: "The work" },
  ].filter((way) => !!way);
  return (
    <span className="flex flex-wrap gap-x-4 px-4 text-[13.5px]">
      {ways.map(({ to, words }) => (
        <Link
          key={to}
          className="text-indigo underline underline-offset-2"
          to={`/d/${door.id}/${to}`}
          aria-label={`${words}, ${door.title === "Everything" ? door.formTitle : door.title}`}
        >
          {words}
        </Link>
      ))}
    </span>
  );
}

/** The keys begin at the first, unless they are somewhere already. */
function Way({ door, first }: { door: Door; first: boolean }) {
  const link = useRef<HTMLAnchorElement>(null);
  useEffect(() => {
    if (first && document.activeElement === document.body) link.current?.focus();
  }, [first]);
  const everything = door.id === door.form;
  return (
    <Link ref={link} to={`/d/${door.id}`} className="box grid gap-2 p-4 hover:border-indigo">
      <span className="text-[17px] font-semibold">{everything ? door.formTitle : door.title}</span>
      <span className="flex flex-wrap gap-2">
        <span className="chip">{everything ? "Everything" : door.formTitle}</span>
        <span className="chip">
          writes to <span className="font-mono">{door.table}</span>
        </span>
      </span>
      <span className="text-soft">{may(door.may)}</span>
    </Link>
  );
}
