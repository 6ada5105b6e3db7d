import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { DeskForm as Form, SeenTable as Table } from "../api/client";
import { doorsQuery } from "../api/queries";
import { inputId } from "../form/FieldView";
import { fieldsOf } from "../model/items";
import { isLink, shown } from "../model/shown";
import type { DeskDoings } from "../sitting/useDesk";
import { backAt, broughtTo, comeBack, setOut, type Visit } from "./visits";

/** What can be done with a link at its field: see its record, or make a new one to link to. */
export interface LinkDoing {
  words: string;
  go: () => void;
}

/**
 * Going from a link to its record and back, or to a new record and back with that chosen, by doors that whoever is here
 * has. What was typed is there again when one is back.
 */
export function useVisits(form: Form, table: Table, desk: DeskDoings) {
  const navigate = useNavigate();
  const doors = useQuery({ ...doorsQuery, enabled: !form.door.byLink }).data ?? [];
  const { entry, say, kept } = desk.sitting;
  const [visit] = useState(() => broughtTo(form.door.id));

  const doing = (column: string): LinkDoing | undefined => {
    const to = table.columns.find((each) => each.name === column)?.to;
    const label = fieldsOf(form).find((field) => field.column === column)?.label ?? column;
    const theirs = doors.filter((door) => door.table === to && door.id !== form.door.id);
    const value = held(desk, column);
    const link = isLink(value) && value.id > 0 ? value : undefined;
    const door = theirs.find(({ may }) => may.includes(link ? "see" : "add"));
    if (!door) return undefined;
    return {
      words: link ? "Open it" : "Make a new one",
      go: () => {
        const { record, typed } = entry.snapshot();
        setOut({
          from: form.door.id,
          title: form.title,
          record: record?.id ?? null,
          typed,
          column,
          label,
          to: door.id,
          open: link?.id ?? null,
        });
        // It is kept with the visit, and no draft of a page that is gone.
        entry.turn();
        navigate(`/d/${door.id}`);
      },
    };
  };

  const back = useCallback(() => visit && navigate(`/d/${visit.from}`), [visit, navigate]);

  // At the door one was brought to: the record is opened, or made and taken along.
  const { open } = desk;
  const arrived = useRef(false);
  useEffect(() => {
    if (!visit || arrived.current) return;
    arrived.current = true;
    if (visit.open !== null) open(visit.open);
    else say(`Make the record for ${visit.label}. Once it is saved, it is chosen there.`);
  }, [visit, open, say]);
  const before = useRef(kept.length);
  useEffect(() => {
    const newest = kept[0];
    if (!visit || visit.open !== null || kept.length <= before.current || !newest) return;
    before.current = kept.length;
    const first = fieldsOf(form)[0]?.column ?? "";
    const words = shown(newest.record.values[first]);
    comeBack({ id: newest.record.id, words });
    back();
  }, [visit, kept, form, back]);

  // Back where one set out: what was typed is there again, and what was made is chosen.
  const settled = useRef(false);
  useEffect(() => {
    if (settled.current) return;
    settled.current = true;
    const over = backAt(form.door.id);
    if (over) restore(over, desk);
  }, [form, desk]);

  return { doing, visit, back };
}

/** What the field holds: as it was read, else as it is stored. */
function held(desk: DeskDoings, column: string): unknown {
  const { assessment, record, typed, base } = desk.sitting.entry.snapshot();
  if (record && typed[column] === base[column]) return record.values[column];
  return assessment?.values[column];
}

async function restore(visit: Visit, desk: DeskDoings) {
  const { entry, say } = desk.sitting;
  if (visit.record !== null) await desk.open(visit.record);
  for (const [column, text] of Object.entries(visit.typed))
    if (text !== (entry.snapshot().typed[column] ?? "")) entry.type(column, text);
  document.getElementById(inputId(visit.column))?.focus();
  const { made } = visit;
  if (made) {
    const { typed } = entry.snapshot();
    const choices = await entry.list(visit.column, made.words).catch(() => []);
    const choice = choices.find(({ id }) => id === made.id);
    // Whoever typed on meanwhile, or saved, is not interrupted.
    if (entry.snapshot().typed !== typed || entry.snapshot().pending) return;
    if (choice) {
      entry.type(visit.column, choice.value);
      say(`${visit.label} is now ${choice.value}`, "ok");
    } else say(`The new record is saved. Choose it for ${visit.label}.`);
  }
}
