import { parseDate } from "@internationalized/date";
import { ChevronLeft, ChevronRight } from "lucide-react";
import type { RefObject } from "react";
import {
  Button,
  Calendar,
  CalendarCell,
  CalendarGrid,
  Dialog,
  Heading,
  Popover,
} from "react-aria-components";

interface Props {
  label: string;
  frame: RefObject<HTMLDivElement | null>;
  value: unknown;
  /** Told the date, or nothing when one leaves without any. */
  choose: (date: string | undefined) => void;
}

/** A calendar below a date; it is only fetched when one is opened. */
export default function CalendarPopup({ label, frame, value, choose }: Props) {
  return (
    <Popover
      isOpen
      onOpenChange={(open) => !open && choose(undefined)}
      triggerRef={frame}
      placement="bottom start"
      className="popup"
    >
      <Dialog aria-label={`Calendar of ${label}`} className="outline-none">
        <Calendar
          className="calendar"
          aria-label={label}
          autoFocus
          defaultValue={typeof value === "string" ? parseDate(value) : null}
          onChange={(date) => choose(date.toString())}
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
  );
}
