import { ChevronDown } from "lucide-react";
import { type RefObject, useEffect, useRef, useState } from "react";
import {
  Autocomplete,
  Input,
  ListBox,
  ListBoxItem,
  Popover,
  TextField,
  useFilter,
} from "react-aria-components";
import type { Choice } from "../api/client";
import { type InputProps, plainKeys } from "./input";

/** One of a fixed list; what is typed may stand anywhere in it, and those that begin so come first. */
export function ChoiceInput(props: InputProps) {
  const { startsWith, contains } = useFilter({ sensitivity: "base" });
  const { choices, text } = props;
  const chosen = choices.includes(text);
  const first = chosen || !text ? [] : choices.filter((choice) => startsWith(choice, text));
  const items = [...first, ...choices.filter((choice) => !first.includes(choice))].map((value) => ({
    value,
    shown: "",
    id: null,
  }));
  return <Combo {...props} items={items} filter={(choice, typed) => chosen || contains(choice, typed)} />;
}

/** What hangs at a field follows it when lines above come or go: it is placed anew whenever the window changes its size. */
function useFollowed(field: RefObject<HTMLElement | null>, open: boolean) {
  useEffect(() => {
    const form = field.current?.closest(".form");
    if (!open || !form) return;
    const sizes = new ResizeObserver(() => window.dispatchEvent(new Event("resize")));
    sizes.observe(form);
    return () => sizes.disconnect();
  }, [field, open]);
}

interface ComboProps extends InputProps {
  items: Choice[];
  filter: (choice: string, typed: string) => boolean;
  /** The list is opened, or typed into. */
  asked?: (typed: string) => void;
}

/**
 * A list that narrows as one types. What is typed stays as typed, since the core reads it; the list is a help that opens
 * at the first letter and is never needed.
 */
export function Combo({ id, text, type, field, aria, items, filter, asked }: ComboProps) {
  const [open, setOpen] = useState(false);
  const frame = useRef<HTMLDivElement>(null);
  useFollowed(frame, open);
  const choose = (choice: string) => {
    type(choice);
    setOpen(false);
    document.getElementById(id)?.focus();
  };
  return (
    <Autocomplete
      inputValue={text}
      onInputChange={(typed) => {
        type(typed);
        asked?.(typed);
        setOpen(typed !== "");
      }}
      filter={filter}
      disableAutoFocusFirst
    >
      <TextField className="contents" aria-label={field.label}>
        <div className="in words" ref={frame}>
          <Input
            id={id}
            role="combobox"
            aria-expanded={open}
            // Moving through the list tells the input that it lost focus; it keeps it all the same.
            onBlur={() => document.activeElement?.id !== id && setOpen(false)}
            onKeyDown={(e) => {
              if (e.key === "ArrowDown" && !open) {
                asked?.("");
                setOpen(true);
              }
              if (e.key === "Escape" || e.key === "Tab") setOpen(false);
            }}
            {...plainKeys}
            {...aria}
            placeholder={aria.placeholder ?? "choose or type"}
          />
          <button
            type="button"
            tabIndex={-1}
            disabled={aria.readOnly}
            aria-label={`Choices of ${field.label}`}
            onMouseDown={(e) => {
              e.preventDefault();
              document.getElementById(id)?.focus();
              asked?.("");
              setOpen(!open);
            }}
          >
            <ChevronDown size={16} aria-hidden="true" />
          </button>
        </div>
      </TextField>
      <Popover isOpen={open} isNonModal triggerRef={frame} placement="bottom start" className="popup">
        <ListBox
          aria-label={field.label}
          items={items.map((item) => ({ ...item, id: item.value }))}
          selectionMode="none"
          onAction={(choice) => choose(String(choice))}
          renderEmptyState={() => <p className="px-2 py-1 text-soft">Nothing on the list has that in it.</p>}
        >
          {(choice) => (
            <ListBoxItem textValue={choice.id} onMouseDown={(e) => e.preventDefault()}>
              {choice.id}
              {choice.shown && <span className="text-soft"> {choice.shown}</span>}
            </ListBoxItem>
          )}
        </ListBox>
      </Popover>
    </Autocomplete>
  );
}
