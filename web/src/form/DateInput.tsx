import { parseDate } from "@internationalized/date";
import { CalendarDays, ChevronLeft, ChevronRight } from "lucide-react";
import { useRef, useState } from "react";
import {
  Button,
  Calendar,
  CalendarCell,
  CalendarGrid,
  Dialog,
  Heading,
  Popover,
} from "react-aria-components";
import { type InputProps, plainKeys } from "./input";

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
      <Popover
        isOpen={open}
        onOpenChange={setOpen}
        triggerRef={frame}
        placement="bottom start"
        className="popup"
      >
        <Dialog aria-label={`Calendar of ${field.label}`} className="outline-none">
          <Calendar
            className="calendar"
            aria-label={field.label}
            autoFocus
            defaultValue={typeof value === "string" ? parseDate(value) : null}
            onChange={(date) => {
              type(date.toString());
              setOpen(false);
              document.getElementById(id)?.focus();
            }}
          >
            <header>
              <Button slot="previous" aria-label="Previous month">
                <ChevronLeft size={16} />
              </Button>
              <Heading className="font-semibold" />
              <Button slot="next" aria-label="Next month">
                <ChevronRight size={16} />
              </Button>
            </header>
            <CalendarGrid>{(date) => <CalendarCell date={date} />}</CalendarGrid>
          </Calendar>
        </Dialog>
      </Popover>
    </div>
  );
}
