import { useState } from "react";
import { answered, api, type DeskForm as Form, Problem, type Schemas } from "../api/client";

/** Records that are selected, made one; and the last ones taken back. Told what came of it, and that rows are others now. */
export function useMakingOne(form: Form, told: (words: string, ok: boolean) => void, changed: () => void) {
  const [open, setOpen] = useState(false);
  const [made, setMade] = useState<number>();
  const path = { door: form.door.id };
  return {
    open,
    setOpen,
    /** Whether there is something to take back. */
    made: made !== undefined,
    may: form.door.may.includes("remove") && form.door.may.includes("change"),
    done: (one: Schemas["MadeOneJson"]) => {
      setOpen(false);
      setMade(one.id ?? undefined);
      told(`They are one now, row ${one.record.row}`, true);
      changed();
    },
    takeBack: async () => {
      if (made === undefined) return;
      try {
        await answered(
          api.POST("/api/doors/{door}/made-one/{id}/take-back", { params: { path: { ...path, id: made } } }),
        );
        setMade(undefined);
        told("They are records of their own again", true);
        changed();
      } catch (e) {
        told(e instanceof Problem ? e.message : "No connection. Nothing was taken back.", false);
      }
    },
  };
}
