import { useState } from "react";
import {
  answered,
  api,
  type DeskForm as Form,
  Problem,
  type Schemas,
  type StoredRecord,
} from "../api/client";

/** Records that are selected, made one; and the last ones taken back. Told what came of it, and of the record that stayed as it is now. */
export function useMakingOne(
  form: Form,
  told: (words: string, ok: boolean) => void,
  changed: (now: StoredRecord) => void,
) {
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
      changed(one.record);
    },
    takeBack: async () => {
      if (made === undefined) return;
      try {
        const now = await answered(
          api.POST("/api/doors/{door}/made-one/{id}/take-back", { params: { path: { ...path, id: made } } }),
        );
        setMade(undefined);
        told("They are records of their own again", true);
        changed(now);
      } catch (e) {
        told(e instanceof Problem ? e.message : "No connection. Nothing was taken back.", false);
      }
    },
  };
}
