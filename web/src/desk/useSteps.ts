import { useEffect, useMemo } from "react";
import { useNavigate, useSearchParams } from "react-router";
import {
  type DeskForm as Form,
  type FormButton,
  Problem,
  type SeenTable as Table,
  type Then,
} from "../api/client";
import { Press } from "../entry/press";
import { text, texts } from "../entry/texts";
import { useDoorTo } from "../frame/useDoorTo";
import { fieldsOf } from "../model/items";
import type { DeskDoings } from "../sitting/useDesk";

/** The beginning of a parameter of the address that gives a field its value. */
const WITH = "with.";

/** What steps do at the Desk: after a save, and when a button that has steps is pressed. */
export function useSteps(
  form: Form,
  table: Table,
  desk: DeskDoings,
  press: (action: FormButton["action"]) => void,
) {
  const navigate = useNavigate();
  const doorTo = useDoorTo();
  const [search] = useSearchParams();
  const { sitting } = desk;
  const { entry, say, refuse, putAside } = sitting;

  // What the address gives stays for every new entry, as long as the form is open by it.
  const given = search.toString();
  useEffect(() => {
    const values = [...new URLSearchParams(given)].filter(([name]) => name.startsWith(WITH));
    if (values.length === 0) return;
    const typed = Object.fromEntries(values.map(([name, value]) => [name.slice(WITH.length), value]));
    entry.give(typed);
    const unknown = Object.keys(typed).filter((name) =>
      fieldsOf(form).every(({ column }) => column !== name),
    );
    if (unknown.length > 0)
      say(`The link fills in what this form has no field for: ${unknown.join(", ")}.`, "wait");
  }, [entry, form, given, say]);

  const follow = (then: Then[]) => {
    for (const each of then) {
      if (each.act === "say") say(each.text, "ok");
      else if (each.act === "press") press(each.press);
      else {
        const values = Object.entries(each.values).map(([column, value]) => [WITH + column, value]);
        navigate(`/d/${doorTo(each.form)}?${new URLSearchParams(values)}`);
      }
    }
  };
  sitting.take({ follow });

  const pressing = useMemo(() => new Press(), []);
  const steps = async (button: string) => {
    const { record } = entry.snapshot();
    try {
      const draft = { values: entry.values, version: entry.version, record: record?.id, ...entry.beside };
      const pressed = await pressing.of(form.door.id, button, draft, record?.version);
      if (!pressed) return;
      for (const [column, value] of Object.entries(pressed.set))
        entry.type(column, text(form, table, column, value));
      if (pressed.saved) {
        const { then: _, ...saved } = pressed.saved;
        entry.saved = saved.id;
        say(record ? `Changed in row ${saved.row}` : `Saved in row ${saved.row}`, "ok");
        if (record) entry.show(saved, texts(form, table, saved));
        else {
          sitting.keep(saved);
          sitting.turn();
        }
      }
      follow(pressed.then);
    } catch (e) {
      if (e instanceof Problem && e.status === 422) {
        const refused = {
          findings: e.findings,
          message: e.message,
          usual: e.body.usual as string | undefined,
        };
        refuse(refused, () => steps(button), record ? undefined : () => putAside(false, refused));
      } else if (e instanceof Problem) say(e.message, "stop");
      else say(`${(e as Error).message} Press it again.`, "wait");
    }
  };

  return { steps };
}
