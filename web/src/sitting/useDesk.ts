import { useEffect, useLayoutEffect, useMemo, useRef } from "react";
import { flushSync } from "react-dom";
import { useSearchParams } from "react-router";
import type { DeskForm as Form, SeenTable as Table } from "../api/client";
import type { Sitting } from "../entry/sitting";
import { inputId } from "../form/FieldView";
import { useLiveTable } from "../live/live";
import { useSubscribed } from "../model/useSubscribed";
import { askOf, EVERYTHING, finding } from "../rows/ask";
import { Asking } from "./asking";
import { Browsing } from "./browsing";
import { Leaving } from "./leaving";
import { Recording } from "./recording";
import { Removing } from "./removing";
import { useDrafts } from "./useDrafts";
import { useFind } from "./useFind";
import { useSitting } from "./useSitting";
import { useSwitch } from "./useSwitch";

/** What goes on at a Desk beside the sitting, for as long as its door is open. */
function partsOf(form: Form, table: Table, sitting: Sitting) {
  const recording = new Recording(sitting, form, table);
  const leaving = new Leaving(sitting, recording.save);
  const browsing = new Browsing(sitting, { leave: leaving.leave, draw: flushSync }, form, table);
  const focus = (column: string | undefined) => {
    const input = column && document.getElementById(inputId(column));
    if (input) input.focus();
    else sitting.focusFirst();
  };
  const turn = (change: () => void) => {
    const at = document.activeElement?.id.replace(/^field-/, "");
    flushSync(change);
    focus(sitting.fields.find((field) => field.column === at)?.column);
  };
  const asking = new Asking(sitting, browsing, { turn, focus }, form);
  const removing = new Removing(sitting, browsing, form.door.id);
  return { recording, leaving, browsing, asking, removing };
}

/** All that one can do at a Desk; it puts together its parts, which are named after what they own. */
export function useDesk(form: Form, version: number | undefined, table: Table) {
  const sitting = useSitting(form, version);
  const { state, entry, say } = sitting;
  const switched = useSwitch(form, entry.blank && !state.record && !state.pending, entry.outgrown);
  // biome-ignore lint/correctness/useExhaustiveDependencies: they follow the form and its table
  const parts = useMemo(() => partsOf(form, table, sitting.sitting), [form.door.id, sitting.sitting]);
  const { recording, leaving, browsing, asking, removing } = parts;
  useLayoutEffect(() => {
    recording.follow(form, table);
    browsing.follow(form, table);
    asking.follow(form);
    leaving.follow(form.leaving === "asks");
  }, [recording, browsing, asking, leaving, form, table]);
  const record = { ...recording, ...useSubscribed(recording) };
  const browse = { ...browsing, ...useSubscribed(browsing) };
  const removal = { ...removing, ...useSubscribed(removing), removing };
  const find = useFind(form, asking, browsing);
  const drafts = useDrafts(form, sitting, browsing);
  useLayoutEffect(() => {
    sitting.take({
      free: async () => {
        if (entry.snapshot().record) await browsing.fresh();
        return entry.snapshot().record === undefined;
      },
    });
  }, [sitting.take, entry, browsing]);
  useLiveTable(
    // A line to the server can bear no secret.
    form.door.byLink ? undefined : table.name,
    {
      heard: () => browse.refresh(),
      redefined: switched,
      published: (changed) => changed === form.id && switched(),
    },
    form.door.id,
  );

  const { place, ask } = browse;
  const total = finding(ask)
    ? (place?.total ?? find.read?.total)
    : typeof table.rows === "number"
      ? { count: table.rows, exact: true }
      : (find.read?.total ?? place?.total);
  // What was saved just now is counted a moment later.
  const none = !total?.count && sitting.kept.every(({ taken }) => taken);
  const can = {
    first: !none && !place?.first,
    previous: !none && !place?.first,
    next: !!place,
    last: !none && !place?.last,
  };

  // One begins at the row that the address names, or, where nothing can be added, at the first record.
  const { go } = browsing;
  const { first } = asking;
  const [search] = useSearchParams();
  const wanted = search.get("row");
  const found = useRef(askOf(search.getAll("find"), search.get("any") ?? "", ""));
  // biome-ignore lint/correctness/useExhaustiveDependencies: what the address asks for is asked once
  useEffect(() => {
    const asked = found.current;
    found.current = EVERYTHING;
    // Whatever leads here may ask for records as well.
    if (finding(asked) && form.door.may.includes("see")) first(asked);
    else if (wanted && /^[0-9]+$/.test(wanted) && form.door.may.includes("see")) go(`row:${wanted}`);
    else if (!form.door.may.includes("add") && form.door.may.includes("see")) go("first");
  }, [form, go, wanted]);

  /** Steps; what can't be done is not. Steps asked for while one is under way are left out, so that none runs ahead. */
  const stepping = useRef(false);
  const step = async (to: "first" | "previous" | "next" | "last") => {
    if (!can[to] || stepping.current || find.asking) return;
    stepping.current = true;
    try {
      if (to === "next" && place?.last) {
        if (finding(ask)) say("That was the last match.");
        else if (form.door.may.includes("add")) await browse.fresh();
        else say("That was the last record.");
      } else {
        // A record that the present view does not have is left by its row.
        const lost = place?.record && !place.cursor && (to === "next" || to === "previous");
        await browse.go(lost ? `row:${place.record?.row}` : to === "previous" && !place ? "last" : to);
      }
    } finally {
      stepping.current = false;
    }
  };

  /** F3 and Shift+F3: from match to match. */
  const match = async (to: "next" | "previous") => {
    if (find.asking) return find.first();
    if (!finding(ask)) return find.open();
    if (!place) return find.first(ask);
    if (to === "next" ? place.last : place.first)
      say(to === "next" ? "That was the last match." : "That was the first match.");
    else await step(to);
  };

  /** Jumps to a number, or with "row" before it to a row. */
  const jump = async (typed: string): Promise<boolean> => {
    const wanted = /^(row\s*)?([0-9]+)$/i.exec(typed.trim());
    if (!wanted) {
      say("Type a number, such as 14, or row 14.", "stop");
      return false;
    }
    return browse.go(wanted[1] ? `row:${wanted[2]}` : (wanted[2] ?? "")).catch((e: Error) => {
      say(e.message, "stop");
      return false;
    });
  };

  /** Opens a record, out of the find if it is not in it. */
  const open = async (id: number) => {
    if (find.asking) await find.first(find.settled);
    if (!(await browse.go(`record:${id}`)) && !entry.dirty) {
      await browse.go(`record:${id}`, { ...EVERYTHING, sort: ask.sort });
    }
  };

  const save = (asItStands?: unknown) => {
    if (find.asking) find.first();
    else if (entry.snapshot().record) record.save();
    else sitting.save(asItStands);
  };

  /** Esc: the whole entry back, then out of the find. */
  const putBack = () => {
    if (find.asking) return find.leave();
    if (entry.dirty) {
      if (entry.snapshot().record) {
        entry.putBack();
        say("");
      } else {
        sitting.putAside(false);
        say("Cleared. Ctrl+Z brings it back.");
      }
    } else if (finding(ask)) {
      find.leave();
    }
  };

  return {
    sitting,
    record,
    browse,
    find,
    removal,
    drafts,
    leaving: useSubscribed(leaving).answer,
    total,
    can,
    step,
    match,
    jump,
    open,
    save,
    putBack,
  };
}

export type DeskDoings = ReturnType<typeof useDesk>;
