import { useEffect, useState } from "react";
import type { Form } from "../api/client";
import type { Outgoing } from "./outbox";
import { ago, hourly, inTwoLines, type Kept } from "./sitting";

interface Props {
  form: Form;
  kept: Kept[];
  outgoing: Outgoing[];
  open: (outgoing: Outgoing) => void;
}

const DRAWN = 200;

/** What this keyer saved in this sitting, newest first, under what still waits. */
export function Tray({ form, kept, outgoing, open }: Props) {
  const [now, setNow] = useState(Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 20_000);
    return () => clearInterval(timer);
  }, []);
  const rate = hourly(kept, now);
  const held = outgoing.filter((each) => each.state !== "sending").reverse();
  return (
    <aside className="tray" aria-label="This sitting">
      <h2>
        This sitting
        <span>
          {kept.length} saved{rate ? ` · ${rate} an hour` : ""}
        </span>
      </h2>
      {held.map((each) => (
        <Held key={each.key} form={form} outgoing={each} open={() => open(each)} />
      ))}
      {kept.length === 0 && held.length === 0 && (
        <p className="text-[13.5px] text-soft">What you save appears here, newest first, with its row.</p>
      )}
      {kept.slice(0, DRAWN).map(({ record, at }, place) => {
        const { title, detail } = inTwoLines(form, record.values);
        return (
          <div key={record.id} className={`card-line ${place === 0 ? "new" : ""}`}>
            <span className="r">{record.row}</span>
            <b>{title}</b>
            <span className="t">{ago(at, now)}</span>
            <span className="d">{detail}</span>
          </div>
        );
      })}
    </aside>
  );
}

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
