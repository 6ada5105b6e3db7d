import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import type { DeskForm as Form } from "../api/client";
import { queryKeyOf } from "../api/keys";

/**
 * Goes over to a newer published version of the form between entries, and in the middle of one only when that was stopped for
 * what the version that is shown does not have. It answers with what tells it that there may be one.
 */
export function useSwitch(form: Form, between: boolean, outgrown = false) {
  const queries = useQueryClient();
  const [wanted, setWanted] = useState(false);
  useEffect(() => {
    if (!outgrown && !(wanted && between)) return;
    setWanted(false);
    queries.invalidateQueries({ queryKey: queryKeyOf("ruled", form.door.id) });
    queries.invalidateQueries({ queryKey: queryKeyOf("published", form.door.id) });
  }, [wanted, between, outgrown, queries, form.door.id]);
  return useCallback(() => setWanted(true), []);
}
