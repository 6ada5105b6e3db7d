import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { answered, api } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { useSubscribed } from "../model/useSubscribed";
import { DoorCopy } from "./doorCopy";

export type { DoorAnswer, DoorDocument } from "./doorCopy";

export const doorsOfQuery = (form: string) => ({
  queryKey: queryKeyOf("doors-of", form),
  queryFn: () => answered(api.GET("/api/forms/{form}/doors", { params: { path: { form } } })),
});

/** A door that is worked on, for as long as its settings are open. */
export function useDoor(form: string, id: string) {
  const queries = useQueryClient();
  const copy = useMemo(
    () =>
      new DoorCopy(form, id, () => {
        for (const key of [
          queryKeyOf("doors-of", form),
          queryKeyOf("door-picture", id),
          queryKeyOf("published", id, true),
          queryKeyOf("seen-table", id, true),
          queryKeyOf("doors"),
        ])
          queries.invalidateQueries({ queryKey: key });
      }),
    [form, id, queries],
  );
  useEffect(() => {
    copy.fetch();
    // Whoever leaves at once has it saved all the same.
    return () => {
      copy.save();
    };
  }, [copy]);
  const { door, trouble } = useSubscribed(copy);
  const { change, remove, link } = copy;
  return { door, trouble, change, remove, link };
}
