import { useQuery } from "@tanstack/react-query";
import { Autocomplete, Input, ListBox, ListBoxItem, SearchField, useFilter } from "react-aria-components";
import { useNavigate } from "react-router";
import { formsQuery, tablesQuery } from "../api/queries";
import { Cover } from "../ui/Cover";

interface Command {
  id: string;
  name: string;
  what: string;
  run: () => void;
}

/** Reaches every form, table and action by name. */
export function CommandBar({ close, switchTheme }: { close: () => void; switchTheme: () => void }) {
  const forms = (useQuery(formsQuery).data ?? []).filter((form) => !form.archived);
  const tables = useQuery(tablesQuery).data ?? [];
  const navigate = useNavigate();
  const { contains } = useFilter({ sensitivity: "base" });
  const go = (to: string) => () => navigate(to);
  const commands: Command[] = [
    ...forms
      .filter((form) => form.published)
      .map((form) => ({
        id: `form ${form.id}`,
        name: form.title,
        what: "open at the Desk",
        run: go(`/desk/${form.id}`),
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
    { id: "tables", name: "Tables", what: "place", run: go("/tables") },
    { id: "forms", name: "Forms", what: "place", run: go("/forms") },
    { id: "messages", name: "Messages", what: "the outbox", run: go("/messages") },
    { id: "new-form", name: "Make a form", what: "from nothing", run: go("/bench/new") },
    { id: "new", name: "Make a table", what: "from headings or a file", run: go("/tables/new") },
    { id: "theme", name: "Switch between light and dark", what: "look", run: switchTheme },
  ];
  return (
    <Cover name="Go to" close={close}>
      <Autocomplete filter={contains}>
        <SearchField aria-label="Form, table or action" autoFocus className="p-3">
          <Input
            className="entry"
            placeholder="Form, table or action"
            onKeyDown={(e) => {
              // Keys may be faster than the list that marks its first line.
              if (e.key !== "Enter" || document.querySelector(".commands [data-focused]")) return;
              const first = commands.find((command) => contains(command.name, e.currentTarget.value));
              if (!first) return;
              e.preventDefault();
              close();
              first.run();
            }}
          />
        </SearchField>
        <ListBox
          aria-label="Matches"
          className="commands pb-2"
          items={commands}
          selectionMode="none"
          onAction={(id) => {
            close();
            commands.find((command) => command.id === id)?.run();
          }}
          renderEmptyState={() => <p className="px-4 py-2 text-soft">Nothing by that name.</p>}
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
