import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import type { DeskForm as Form } from "../api/client";
import { queryKeyOf } from "../api/keys";

/**
 * Goes over to a newer published version of the form between entries, never in the middle of one. It answers with what tells it
 * that there may be one.
 */
export function useSwitch(form: Form, between: boolean) {
  const queries = useQueryClient();
  const [wanted, setWanted] = useState(false);
  useEffect(() => {
    if (!wanted || !between) return;
    setWanted(false);
    queries.invalidateQueries({ queryKey: queryKeyOf("ruled", form.door.id) });
    queries.invalidateQueries({ queryKey: queryKeyOf("published", form.door.id) });
  }, [wanted, between, queries, form.door.id]);
  return useCallback(() => setWanted(true), []);
}
