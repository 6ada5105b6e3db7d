import { useCallback } from "react";
import type { DeskForm as Form } from "../api/client";
import type { Entry } from "../entry/entry";
import { inputId } from "../form/FieldView";

/** Leaves a field; where a check of it says so, the cursor comes back until it is put right. It owns nothing. */
export function useStays(form: Form, entry: Entry, say: (text: string, tone?: "" | "stop") => void) {
  return useCallback(
    (column: string) => {
      entry.leave(column);
      const staying = (form.rules?.checks ?? []).filter((check) => check.stays);
      if (staying.length === 0 || !entry.snapshot().typed[column]?.trim()) return;
      entry.assess().then(() => {
        const { assessment, pending } = entry.snapshot();
        const stop = assessment?.findings.find(
          (finding) => finding.field === column && staying.some((check) => check.id === finding.rule),
        );
        if (!stop || pending || document.querySelector("[role=dialog]")) return;
        document.getElementById(inputId(column))?.focus();
        say(stop.message, "stop");
      });
    },
    [form, entry, say],
  );
}
