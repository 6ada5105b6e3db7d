import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { doorsQuery, formsQuery, tablesQuery } from "../api/queries";
import { administers, builds, sessionQuery } from "../people/session";
import { type Named, PickByName } from "../ui/PickByName";

interface Command extends Named {
  run: () => void;
}

/** Reaches every form, table and action by name. */
export function CommandBar({ close, switchTheme }: { close: () => void; switchTheme: () => void }) {
  const person = useQuery(sessionQuery).data?.person;
  const enabled = builds(person);
  const lists = {
    doors: useQuery(doorsQuery),
    forms: useQuery({ ...formsQuery, enabled }),
    tables: useQuery({ ...tablesQuery, enabled }),
  };
  const doors = lists.doors.data ?? [];
  const forms = (lists.forms.data ?? []).filter((form) => !form.archived);
  const tables = lists.tables.data ?? [];
  const complete = Object.values(lists).every((list) => !list.isLoading);
  const navigate = useNavigate();
  const go = (to: string) => () => navigate(to);
  const commands: Command[] = [
    ...doors.map((door) => ({
      id: `door ${door.id}`,
      name: door.id === door.form ? door.formTitle : door.title,
      what: "open at the Desk",
      run: go(`/d/${door.id}`),
    })),
    ...forms.map((form) => ({
      id: `bench ${form.id}`,
      name: form.title,
      what: "change on the Bench",
      run: go(`/bench/${form.id}`),
    })),
    ...tables.map((table) => ({
      id: `table ${table.name}`,
      name: table.title,
      what: "table",
      run: go(`/tables/${table.name}`),
    })),
    { id: "doors", name: "Doors", what: "place", run: go("/") },
    ...(enabled
      ? [
          { id: "tables", name: "Tables", what: "place", run: go("/tables") },
          { id: "forms", name: "Forms", what: "place", run: go("/forms") },
          { id: "messages", name: "Messages", what: "the outbox", run: go("/messages") },
          { id: "new-form", name: "Make a form", what: "from nothing", run: go("/bench/new") },
          { id: "new", name: "Make a table", what: "from headings or a file", run: go("/tables/new") },
        ]
      : []),
    ...(administers(person) ? [{ id: "people", name: "People", what: "place", run: go("/people") }] : []),
    ...doors.map((door) => ({
      id: `sheet ${door.id}`,
      name: `Empty sheet of ${door.id === door.form ? door.formTitle : door.title}`,
      what: "to print",
      run: go(`/d/${door.id}/sheet`),
    })),
    { id: "theme", name: "Switch between light and dark", what: "look", run: switchTheme },
  ];
  return (
    <PickByName
      name="Go to"
      label="Form, table or action"
      items={commands}
      complete={complete}
      none="Nothing by that name."
      pick={(command) => command.run()}
      close={close}
    />
  );
}

export { PlaceKeys } from "./PlaceKeys";
