import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect } from "react";
import { Link, useNavigate } from "react-router";
import { dayQuery, doorsQuery, formsQuery } from "../api/queries";
import { counted } from "../model/counted";
import { builds, sessionQuery } from "../people/session";
import { Trouble } from "../ui/Trouble";
import { DoorList } from "./DoorList";
import "./doors.css";

const Begin = lazy(() => import("../tables/Begin").then((m) => ({ default: m.Begin })));
const Ways = lazy(() => import("../tables/Ways").then((m) => ({ default: m.Ways })));

/** Whether one has been somewhere since the page was loaded; who has not is taken to where the work is. */
let arrived = false;

/** Where a day begins: the doors one may go through, and for builders the ways to a new form. */
export function Doors() {
  const doors = useQuery(doorsQuery);
  const building = builds(useQuery(sessionQuery).data?.person);
  const forms = useQuery({ ...formsQuery, enabled: building }).data;
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
        <span className="hidden text-[13.5px] text-soft sm:inline">the ways you have into forms</span>
        <span className="flex-1" />
        {doors.data?.some((door) => door.may.includes("see")) && <Day />}
      </header>
      <div className={`doors-place ${building ? "building" : ""}`}>
        <div className="overflow-auto px-5 py-4">
          <Trouble error={doors.error} />
          {doors.isPending && <p role="status">Looking for your doors…</p>}
          {doors.data?.length === 0 && (
            <p className="max-w-prose">
              No door is open to you yet. Whoever invited you can let you through one.
            </p>
          )}
          {doors.data && doors.data.length > 0 && (
            <DoorList doors={doors.data} lost={(form) => forms?.find(({ id }) => id === form)?.lost ?? []} />
          )}
        </div>
        {building && (
          <aside className="ways" aria-labelledby="make">
            <h2 id="make">Make a form</h2>
            <Suspense fallback={null}>
              <Ways />
            </Suspense>
          </aside>
        )}
      </div>
    </main>
  );
}

/** The way to the day, with how many doors it has something to tell of. */
function Day() {
  const many = useQuery(dayQuery).data?.doors.length;
  return (
    <Link
      className="btn"
      to="/day"
      aria-label={many ? `The day, ${counted(many, "door")} with news` : undefined}
    >
      The day
      {many ? <b className="news">{many}</b> : null}
    </Link>
  );
}
