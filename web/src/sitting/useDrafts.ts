import { useEffect, useState } from "react";
import type { DeskForm as Form } from "../api/client";
import { type Draft, forget, keepDraft, leftOver, setAside } from "../entry/drafts";
import type { Browsing } from "./browsing";
import type { SittingDoings } from "./useSitting";

const LOOK_AGAIN = 4_000;

/** What was typed and not saved, kept from now on and offered from before. It owns what is offered. */
export function useDrafts(form: Form, sitting: SittingDoings, browsing: Browsing) {
  const { entry, say } = sitting;
  const [offered, setOffered] = useState<Draft[]>([]);

  useEffect(() => {
    // Where anybody may come next, nothing half typed stays behind.
    if (form.door.byLink) return;
    setAside(form.door.id);
    setOffered(leftOver(form.door.id));
    const stop = keepDraft(form.door.id, entry);
    // Another page that crashed is known to be gone only a while after.
    const timer = setInterval(() => setOffered(leftOver(form.door.id)), LOOK_AGAIN);
    return () => {
      stop();
      clearInterval(timer);
    };
  }, [form.door.id, form.door.byLink, entry]);

  const drop = (draft: Draft) => {
    forget(draft);
    setOffered(leftOver(form.door.id));
  };

  /** Brings it into the form, onto the record that it changes. */
  const bringBack = async (draft: Draft) => {
    if (entry.dirty) {
      say("Save or clear the entry in the form first.", "stop");
      return;
    }
    const there = draft.record !== null && (await browsing.go(`record:${draft.record.id}`));
    if (!there) await browsing.fresh();
    if (draft.record && !there) {
      say(
        `Row ${draft.record.row} is not there any more. What was typed is brought back as a new entry.`,
        "stop",
      );
    }
    for (const [column, text] of Object.entries(draft.typed)) entry.type(column, text);
    if (draft.lines) entry.bringLines(draft.lines);
    drop(draft);
    sitting.focusFirst();
  };

  const bringBackLatest = () => {
    if (offered[0]) bringBack(offered[0]);
  };

  return { offered, bringBack, bringBackLatest, drop };
}
