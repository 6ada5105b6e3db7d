import { useEffect, useState } from "react";
import { Autocomplete, Input, ListBox, ListBoxItem, SearchField, useFilter } from "react-aria-components";
import { Cover } from "./Cover";

export interface Named {
  id: string;
  name: string;
  /** What it is, where the name does not say it. */
  what?: string;
}

interface Props<T extends Named> {
  /** What the dialog is called. */
  name: string;
  /** What is typed. */
  label: string;
  items: T[];
  /** Whether all of them are here: what Enter means must not change while they come in one after the other. */
  complete?: boolean;
  /** Said where nothing matches. */
  none: string;
  pick: (item: T) => void;
  close: () => void;
}

/** A dialog in which one of many is picked by the letters of its name; those that begin so come first. */
export function PickByName<T extends Named>(props: Props<T>) {
  const { name, label, complete = true, none, pick, close } = props;
  const { contains, startsWith } = useFilter({ sensitivity: "base" });
  const [typed, setTyped] = useState("");
  const [due, setDue] = useState(false);
  const items = complete
    ? [
        ...props.items.filter((item) => startsWith(item.name, typed)),
        ...props.items.filter((item) => !startsWith(item.name, typed)),
      ]
    : [];
  const choose = (item: T | undefined) => {
    if (!item) return;
    close();
    pick(item);
  };
  const chooseFirst = () => choose(items.find((item) => contains(item.name, typed)));
  // Enter may be pressed before the items are here: it is kept until they are.
  useEffect(() => {
    if (!due || !complete) return;
    setDue(false);
    chooseFirst();
  });
  return (
    <Cover name={name} close={close}>
      <Autocomplete filter={contains} inputValue={typed} onInputChange={setTyped}>
        <SearchField aria-label={label} autoFocus className="p-3">
          <Input
            className="entry"
            placeholder={label}
            onKeyDown={(e) => {
              if (e.key === "Escape") close();
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
          items={items}
          selectionMode="none"
          onAction={(id) => choose(items.find((item) => item.id === id))}
          renderEmptyState={() => <p className="px-4 py-2 text-soft">{complete ? none : "One moment …"}</p>}
        >
          {(item) => (
            <ListBoxItem id={item.id} textValue={item.name}>
              {item.name}
              {item.what && <small>{item.what}</small>}
            </ListBoxItem>
          )}
        </ListBox>
      </Autocomplete>
    </Cover>
  );
}
