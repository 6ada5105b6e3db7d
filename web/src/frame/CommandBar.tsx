import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Autocomplete, Input, ListBox, ListBoxItem, SearchField, useFilter } from "react-aria-components";
import { useNavigate } from "react-router";
import { doorsQuery, formsQuery, tablesQuery } from "../api/queries";
import { administers, builds, sessionQuery } from "../people/session";
import { Cover } from "../ui/Cover";

interface Command {
  id: string;
  name: string;
  what: string;
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
  // What Enter means must not change while lists come in one after the other.
  const complete = Object.values(lists).every((list) => !list.isLoading);
  const [typed, setTyped] = useState("");
  const [due, setDue] = useState(false);
  const navigate = useNavigate();
  const { contains } = useFilter({ sensitivity: "base" });
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
  const choose = (command: Command | undefined) => {
    if (!command) return;
    close();
    command.run();
  };
  const chooseFirst = () => choose(commands.find((command) => contains(command.name, typed)));
  // Enter may be pressed before the lists are here: it is kept until they are.
  useEffect(() => {
    if (!due || !complete) return;
    setDue(false);
    chooseFirst();
  });
  return (
    <Cover name="Go to" close={close}>
      <Autocomplete filter={contains} inputValue={typed} onInputChange={setTyped}>
        <SearchField aria-label="Form, table or action" autoFocus className="p-3">
          <Input
            className="entry"
            placeholder="Form, table or action"
            onKeyDown={(e) => {
              // Keys may be faster than the list that marks its first line.
              if (e.key !== "Enter" || document.querySelector(".commands [data-focused]")) return;
              e.preventDefault();
              if (complete) chooseFirst();
              else setDue(true);
            }}
          />
        </SearchField>
        <ListBox
          aria-label="Matches"
          className="commands pb-2"
          items={complete ? commands : []}
          selectionMode="none"
          onAction={(id) => choose(commands.find((command) => command.id === id))}
          renderEmptyState={() => (
            <p className="px-4 py-2 text-soft">{complete ? "Nothing by that name." : "One moment …"}</p>
          )}
        >
          {(command) => (
            <ListBoxItem id={command.id} textValue={command.name}>
              {command.name}
              <small>{command.what}</small>
            </ListBoxItem>
          )}
        </ListBox>
      </Autocomplete>
    </Cover>
  );
}

export { PlaceKeys } from "./PlaceKeys";
