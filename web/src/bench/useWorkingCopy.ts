import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useLayoutEffect, useMemo } from "react";
import { queryKeyOf } from "../api/keys";
import { type Revised, workingCopyQuery } from "../api/queries";
import { useSubscribed } from "../model/useSubscribed";
import { type Hearers, WorkingCopy } from "./workingCopy";

/** The working copy of a form as it is on screen; it owns what other queries know of it, and saves when the page is left. */
export function useWorkingCopy(start: Revised, say: Hearers["say"]) {
  const queries = useQueryClient();
  const { id } = start.form;
  // biome-ignore lint/correctness/useExhaustiveDependencies: later states of the form come through the copy itself
  const copy = useMemo(() => new WorkingCopy(start), [id]);
  useLayoutEffect(() => {
    copy.tell({
      say,
      known: (there) => {
        if (there) queries.setQueryData(workingCopyQuery(id).queryKey, there);
        const queryKey = queryKeyOf("bench", id);
        // What is asked for the first time just now tells of what was before.
        queries.cancelQueries({ queryKey }).then(() => queries.invalidateQueries({ queryKey }));
      },
    });
  }, [copy, id, queries, say]);
  useEffect(() => {
    const leave = () => {
      copy.flush();
    };
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      copy.flush();
    };
  }, [copy]);
  const form = useSubscribed(copy);
  return { copy, form };
}
