import { memo, useEffect, useMemo, useRef, useState } from "react";
import type { DeskForm as Form, StoredRecord } from "../api/client";
import type { Outgoing } from "../entry/outbox";
import type { Kept } from "../entry/sitting";
import type { DeskDoings } from "../sitting/useDesk";
import { ago, hourly, inTwoLines } from "./trayWords";

/** So many are drawn at first, and so many more at each press: a long tray costs every key that is typed. */
const DRAWN = 40;
const MINUTE = 60_000;

/** What this keyer saved in this sitting, newest first, under what still waits. */
export function Tray({ form, desk }: { form: Form; desk: DeskDoings }) {
  const { kept, outgoing, reopen } = desk.sitting;
  const [now, setNow] = useState(Date.now());
  const [drawn, setDrawn] = useState(DRAWN);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 20_000);
    return () => clearInterval(timer);
  }, []);
  const rate = hourly(kept, now);
  const latest = useRef(desk);
  latest.current = desk;
  const doings = useMemo<Doings>(
    () => ({
      open: (id) => latest.current.open(id),
      putBack: (id) => latest.current.removal.putBack(id),
      takeBack: (record) => latest.current.removal.takeBack(record),
    }),
    [],
  );
  const held = outgoing.filter((each) => each.state !== "sending").reverse();
  return (
    <aside className={`tray ${kept.length + held.length === 0 ? "empty" : ""}`} aria-label="This sitting">
      <h2>
        This sitting
        <span>
          {kept.length} saved{rate ? ` · ${rate} an hour` : ""}
        </span>
      </h2>
      {held.map((each) => (
        <Held key={each.key} form={form} outgoing={each} open={() => reopen(each)} />
      ))}
      {kept.length === 0 && held.length === 0 && (
        <p className="text-[13.5px] text-soft">What you save appears here, newest first, with its row.</p>
      )}
      {kept.slice(0, drawn).map((each, place) => (
        <Card key={each.record.id} form={form} kept={each} newest={place === 0} now={now} doings={doings} />
      ))}
      {kept.length > drawn && (
        <button type="button" className="btn small quiet" onClick={() => setDrawn(drawn + DRAWN)}>
          Show {Math.min(DRAWN, kept.length - drawn)} earlier ones
        </button>
      )}
    </aside>
  );
}

/** What can be done with a saved entry, the same at every render. */
interface Doings {
  open: (id: number) => void;
  putBack: (id: number) => void;
  takeBack: (record: StoredRecord) => void;
}

interface CardProps {
  form: Form;
  kept: Kept;
  newest: boolean;
  now: number;
  doings: Doings;
}

/** Drawn anew only when something of it changes: a key typed in the form costs the same after a thousand entries. */
const Card = memo(function Card({ form, kept, newest, now, doings }: CardProps) {
  const { record, at, taken } = kept;
  const { title, detail } = inTwoLines(form, record.values);
  return (
    <div className={`card-line ${newest ? "new" : ""} ${taken ? "taken" : ""}`}>
      <span className="r">{record.row}</span>
      {taken ? (
        <b>{title}</b>
      ) : (
        <button
          type="button"
          className="name"
          onClick={() => doings.open(record.id)}
          disabled={!form.door.may.includes("see")}
          title={form.door.may.includes("see") ? "Open it in the form" : undefined}
        >
          {title || "Open"}
        </button>
      )}
      <span className="t">{ago(at, now)}</span>
      <span className="d">
        <span className="flex-1 truncate">{taken ? "taken back" : detail}</span>
        {(form.door.may.includes("remove") || (!taken && now - at < form.door.takeBack * MINUTE)) && (
          <button type="button" onClick={() => (taken ? doings.putBack(record.id) : doings.takeBack(record))}>
            {taken ? "put back" : "take back"}
            <span className="sr-only"> row {record.row}</span>
          </button>
        )}
      </span>
    </div>
  );
});

function Held({ form, outgoing, open }: { form: Form; outgoing: Outgoing; open: () => void }) {
  const stopped = outgoing.state === "stopped";
  return (
    <div className={`card-line ${stopped ? "stop" : "wait"}`}>
      <span className="r" aria-hidden="true">
        ···
      </span>
      <b>{inTwoLines(form, outgoing.typed).title}</b>
      <span className="t">{stopped ? "stopped" : "waiting"}</span>
      <span className="d">
        {stopped ? (outgoing.findings[0]?.message ?? outgoing.message) : "No connection; will be sent once."}{" "}
        {stopped && (
          <button type="button" onClick={open}>
            Open
          </button>
        )}
      </span>
    </div>
  );
}
