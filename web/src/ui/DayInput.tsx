import { CalendarDays } from "lucide-react";
import { lazy, Suspense, use, useEffect, useRef, useState } from "react";
import { shown } from "../model/shown";
import { WayOf } from "../model/way";
import { dayTyped } from "./days";

const CalendarPopup = lazy(() => import("./CalendarPopup"));

interface Props {
  name: string;
  /** The day, as 2026-08-01, or empty. */
  value: string;
  set: (day: string) => void;
  /** Whether it may be none. */
  empty?: boolean;
}

/** A day of a setting: typed as the form reads dates, or chosen from the calendar beside it. */
export function DayInput({ name, value, set, empty }: Props) {
  const way = use(WayOf);
  const told = shown(value, "date", way);
  const [typed, setTyped] = useState(told);
  const [open, setOpen] = useState(false);
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => setTyped(told), [told]);
  const order = way?.dayOrder ?? "year-first";
  const read = dayTyped(typed, order, new Date());
  const wrong = typed.trim() ? !read : !empty;
  const keep = () => {
    if (wrong || (read ?? "") === value) return;
    set(read ?? "");
  };
  return (
    <div className="day-input" ref={frame}>
      <input
        aria-label={name}
        aria-invalid={wrong || undefined}
        title={wrong ? "Type a day as 2026-08-01 or 1 Aug 2026" : undefined}
        autoComplete="off"
        size={11}
        placeholder={empty ? "any day" : "a day"}
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => {
          if (e.key === "Enter") keep();
          else if (e.key === "ArrowDown" && e.altKey) setOpen(true);
          else return;
          e.preventDefault();
        }}
      />
      <button type="button" tabIndex={-1} aria-label={`Calendar of ${name}`} onClick={() => setOpen(true)}>
        <CalendarDays size={15} aria-hidden="true" />
      </button>
      {open && (
        <Suspense fallback={null}>
          <CalendarPopup
            label={name}
            frame={frame}
            value={value || undefined}
            choose={(day) => {
              setOpen(false);
              if (day) set(day);
            }}
          />
        </Suspense>
      )}
    </div>
  );
}
