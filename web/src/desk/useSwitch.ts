import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import type { Form } from "../api/client";
import type { Sitting } from "./useSitting";

/** Goes over to a newer published version of the form between entries, never in the middle of one. */
export function useSwitch(form: Form, sitting: Sitting) {
  const queries = useQueryClient();
  const [wanted, setWanted] = useState(false);
  const { entry, state } = sitting;
  const between = entry.blank && !state.record && !state.pending;
  useEffect(() => {
    if (!wanted || !between) return;
    setWanted(false);
    queries.invalidateQueries({ queryKey: ["published", form.id] });
  }, [wanted, between, queries, form.id]);
  return { redefined: useCallback(() => setWanted(true), []) };
}
