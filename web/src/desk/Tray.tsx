import { memo, useEffect, useMemo, useRef, useState } from "react";
import type { DeskForm as Form } from "../api/client";
import { asks } from "../entry/outbox";
import type { Kept } from "../entry/sitting";
import type { DeskDoings } from "../sitting/useDesk";
import { MoreKeys, mayTakeBack } from "./MoreKeys";
import { ago, didElsewhere, hourly, inTwoLines } from "./trayWords";
import { heldOf, Waiting } from "./Waiting";

/** So many are drawn at first, and so many more at each press: a long tray costs every key that is typed. */
const DRAWN = 40;
/** What this keyer saved in this sitting, newest first, under what still waits. */
export function Tray({ form, desk }: { form: Form; desk: DeskDoings }) {
  const { kept, outgoing } = desk.sitting;
  const [now, setNow] = useState(Date.now());
  const [drawn, setDrawn] = useState(DRAWN);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 20_000);
    return () => clearInterval(timer);
  }, []);
  const entered = kept.filter(({ older, taken }) => !older && !taken);
  const rate = hourly(entered, now);
  const latest = useRef(desk);
  latest.current = desk;
  /** What was taken back here, the last one last. */
  const undone = useRef<Kept["record"][]>([]);
  const doings = useMemo<Doings>(
    () => ({
      open: (id) => latest.current.open(id),
      putBack: async ({ id, elsewhere }) => {
        await latest.current.removal.putBack(id, elsewhere);
        latest.current.sitting.focusFirst();
      },
      takeBack: async (record) => {
        await latest.current.removal.takeBack(record);
        latest.current.sitting.focusFirst();
        const { sitting, say } = latest.current.sitting;
        const { kept, said } = sitting.snapshot();
        if (!kept.some((each) => each.record.id === record.id && each.taken)) return;
        undone.current.push(record);
        say(`${said.text.replace(/\.$/, "")}. Ctrl+Y puts it back.`, "ok");
      },
    }),
    [],
  );
  const redo = () => {
    // What could not be put back, or was put back otherwise, is not lost, nor done twice.
    const last = undone.current.findLast(({ id }) =>
      kept.some((each) => each.record.id === id && each.taken),
    );
    if (last) doings.putBack(last);
  };
  const held = heldOf(desk);
  const asked = outgoing.filter(({ state, findings }) => state === "stopped" && asks(findings)).length;
  return (
    <aside className={`tray ${kept.length + held.length === 0 ? "empty" : ""}`} aria-label="This session">
      <h2>
        This session
        <span>
          {entered.length} saved{rate ? ` · ${rate} an hour` : ""}
          {asked > 0 && ` · ${asked} asked about`}
        </span>
      </h2>
      <MoreKeys form={form} desk={desk} undo={({ record }) => doings.takeBack(record)} redo={redo} />
      <Waiting form={form} desk={desk} />
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
  putBack: (record: Kept["record"]) => void;
  takeBack: (record: Kept["record"]) => void;
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
  const { record, at, taken, older } = kept;
  const { title, detail } = inTwoLines(form, record.values);
  return (
    <div className={`card-line ${newest ? "new" : ""} ${taken ? "taken" : ""}`}>
      <span className="r">{record.row}</span>
      {taken ? (
        <b>{title || `Row ${record.row}`}</b>
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
        <span className="flex-1 truncate">
          {taken ? (older ? "removed" : "taken back") : older ? `changed · ${detail}` : detail}
        </span>
        {mayTakeBack(form, kept, now) && (!older || taken) && (
          <button
            type="button"
            // Only a key of its own, or a press, takes an entry back; no Enter that was meant for the form.
            onKeyDown={(e) => e.key === "Enter" && e.preventDefault()}
            onClick={() => (taken ? doings.putBack(record) : doings.takeBack(record))}
          >
            {taken ? "put back" : "take back"}
            <span className="sr-only"> row {record.row}</span>
          </button>
        )}
      </span>
      {!taken && (record.elsewhere ?? []).length > 0 && (
        <span className="d">{(record.elsewhere ?? []).map(didElsewhere).join("; ")}</span>
      )}
    </div>
  );
});
