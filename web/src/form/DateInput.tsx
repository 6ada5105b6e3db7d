import { CalendarDays } from "lucide-react";
import { lazy, Suspense, useRef, useState } from "react";
import { type InputProps, plainKeys } from "./input";

const CalendarPopup = lazy(() => import("../ui/CalendarPopup"));

/** A date as one types it; a calendar stands by (Alt+Down) and is never needed. */
export function DateInput({ id, text, type, value, field, aria }: InputProps) {
  const [open, setOpen] = useState(false);
  const frame = useRef<HTMLDivElement>(null);
  return (
    <div className="in" ref={frame}>
      <input
        id={id}
        value={text}
        onChange={(e) => type(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === "ArrowDown" && e.altKey && !aria.readOnly) {
            e.preventDefault();
            setOpen(true);
          }
        }}
        {...plainKeys}
        {...aria}
      />
      <button
        type="button"
        tabIndex={-1}
        disabled={aria.readOnly}
        aria-label={`Calendar of ${field.label}`}
        onClick={() => setOpen(true)}
      >
        <CalendarDays size={16} aria-hidden="true" />
      </button>
      {open && (
        <Suspense fallback={null}>
          <CalendarPopup
            label={field.label}
            frame={frame}
            value={value}
            choose={(date) => {
              if (date) type(date);
              setOpen(false);
              document.getElementById(id)?.focus();
            }}
          />
        </Suspense>
      )}
    </div>
  );
}
