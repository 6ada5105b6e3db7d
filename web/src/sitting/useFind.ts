import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { flushSync } from "react-dom";
import { answered, api, type DeskForm as Form, Problem } from "../api/client";
import { mine } from "../entry/mine";
import { inputId } from "../form/FieldView";
import { type Ask, EVERYTHING, finding, question } from "../rows/ask";
import type { Browse } from "./useBrowse";
import type { SittingDoings } from "./useSitting";

const COUNT_AFTER = 150;

/** The form as a question: criteria, read back and counted as they are typed. It owns the criteria that are typed. */
export function useFind(form: Form, sitting: SittingDoings, browse: Browse) {
  const { say, fields, focusFirst } = sitting;
  const [asking, setAsking] = useState(false);
  const [criteria, setCriteria] = useState<Record<string, string>>({});
  const asked: Ask = { ...browse.ask, where: criteria };
  const settled = useSettled(asked, COUNT_AFTER);
  const read = useQuery({
    queryKey: ["view", form.table, "find", form.door.id, question(settled)],
    queryFn: () =>
      answered(
        api.GET("/api/doors/{door}/find", {
          params: { path: { door: form.door.id }, query: question(settled) },
        }),
      ),
    enabled:
      form.door.may.includes("see") &&
      (!form.door.all ||
        asking ||
        finding(browse.ask) ||
        browse.ask.sort !== "" ||
        (form.order?.length ?? 0) > 0),
    placeholderData: keepPreviousData,
  });

  const focus = useCallback(
    (column: string | undefined) => {
      const input = column && document.getElementById(inputId(column));
      if (input) input.focus();
      else focusFirst();
    },
    [focusFirst],
  );

  const show = (now: boolean) => {
    const at = document.activeElement?.id.replace(/^field-/, "");
    flushSync(() => setAsking(now));
    focus(fields.find((field) => field.column === at)?.column);
  };

  /** Turns the form into a question; in a question, brings the last one back. */
  const open = () => {
    if (!form.door.may.includes("see")) return;
    if (asking) {
      setCriteria(last(form.door.id));
      return;
    }
    setCriteria(browse.ask.where);
    show(true);
    say("Say what to find. Enter goes to the first match.");
  };

  /** Goes to the first match of what is asked, unless it can't be read or nothing matches. */
  const first = async (ask: Ask = asked): Promise<void> => {
    if (!finding(ask)) {
      say("Nothing is asked yet. Type what to find into any field.", "stop");
      return;
    }
    try {
      if (await browse.go("first", ask)) {
        if (Object.keys(ask.where).length > 0)
          localStorage.setItem(lastPlace(form.door.id), JSON.stringify(ask.where));
        if (asking) show(false);
      } else if (!sitting.entry.dirty) {
        say("No record matches.", "stop");
      }
    } catch (e) {
      if (!(e instanceof Problem)) throw e;
      say(e.message, "stop");
      if (asking) focus(e.errors[0]?.where);
    }
  };

  /** Every record is in view again; the one in the form stays. */
  const leave = () => {
    setCriteria({});
    browse.refresh({ ...EVERYTHING, sort: browse.ask.sort });
    if (asking) show(false);
    say("");
  };

  return {
    asking,
    criteria,
    type: (column: string, text: string) => setCriteria((now) => ({ ...now, [column]: text })),
    /** What is asked as far as it stands still. */
    settled: asking ? settled : browse.ask,
    read: read.data,
    open,
    first,
    leave,
  };
}

export type Finder = ReturnType<typeof useFind>;

const lastPlace = (door: string) => `${mine("find")}${door}`;

function last(form: string): Record<string, string> {
  return JSON.parse(localStorage.getItem(lastPlace(form)) ?? "{}");
}

/** The value once it has stood still for so long. */
function useSettled(value: Ask, millis: number): Ask {
  const [settled, setSettled] = useState(value);
  const spelled = JSON.stringify(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(JSON.parse(spelled)), millis);
    return () => clearTimeout(timer);
  }, [spelled, millis]);
  return settled;
}
