import { useNavigate } from "react-router";
import type { DeskForm as Form, FormButton, May, SeenTable as Table } from "../api/client";
import type { Presses } from "../form/view";
import { useDoorTo } from "../frame/useDoorTo";
import type { DeskDoings } from "../sitting/useDesk";
import { useSteps } from "./useSteps";

/** What the buttons of a form do at the Desk. One that can't act is disabled. */
export function usePresses(form: Form, table: Table, desk: DeskDoings, remove: () => void): Presses {
  const navigate = useNavigate();
  const doorTo = useDoorTo();
  const { sitting, can, find, browse } = desk;
  const { entry, state } = sitting;
  const { record } = state;
  const may = (what: May) => form.door.may.includes(what);
  const doing: Record<FormButton["action"], [boolean, (button: FormButton) => void]> = {
    save: [may(record ? "change" : "add") && (!record || entry.dirty), () => desk.save(true)],
    clear: [entry.dirty, desk.putBack],
    "put-back": [!!record && entry.dirty, desk.putBack],
    new: [may("add"), () => browse.fresh()],
    first: [can.first, () => desk.step("first")],
    previous: [can.previous, () => desk.step("previous")],
    next: [can.next, () => desk.step("next")],
    last: [can.last, () => desk.step("last")],
    find: [may("see"), find.open],
    delete: [!!record && may("remove"), remove],
    close: [true, () => navigate("/")],
    open: [true, (button) => navigate(`/d/${doorTo(button.opens ?? "")}`)],
    steps: [true, (button) => steps(button.id)],
  };
  const { steps } = useSteps(form, table, desk, (action) => {
    const [can, press] = doing[action];
    if (can) press({} as FormButton);
  });
  return {
    can: (button) => doing[button.action][0],
    press: (button) => doing[button.action][1](button),
  };
}
