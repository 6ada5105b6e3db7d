import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answered, api, type DeskForm as Form } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { useSubscribed } from "../model/useSubscribed";
import { type Ask, finding, question } from "../rows/ask";
import type { Asking } from "./asking";
import type { Browsing } from "./browsing";

const COUNT_AFTER = 150;

/** The form as a question: what is asked is read back and counted as it is typed. */
export function useFind(form: Form, of: Asking, browsing: Browsing) {
  const { asking, criteria } = useSubscribed(of);
  const { ask } = useSubscribed(browsing);
  const settled = useSettled({ ...ask, where: criteria }, COUNT_AFTER);
  const read = useQuery({
    queryKey: queryKeyOf("view", form.table, form.door.id, question(settled), "count"),
    queryFn: () =>
      answered(
        api.GET("/api/doors/{door}/find", {
          params: { path: { door: form.door.id }, query: question(settled) },
        }),
      ),
    enabled:
      form.door.may.includes("see") &&
      (!form.door.all || asking || finding(ask) || ask.sort !== "" || (form.order?.length ?? 0) > 0),
    placeholderData: keepPreviousData,
  });
  const { type, open, first, leave } = of;
  return {
    asking,
    criteria,
    /** What is asked as far as it stands still. */
    settled: asking ? settled : ask,
    read: read.data,
    type,
    open,
    first,
    leave,
  };
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
