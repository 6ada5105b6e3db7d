import { CircleHelp, DoorOpen, ListChecks, Moon, Search, Sun, Table2 } from "lucide-react";
import { useEffect, useState } from "react";
import { NavLink, Outlet, useLocation } from "react-router";
import { Cover } from "../ui/Cover";
import { CommandBar } from "./CommandBar";
import { choosePerson, initials, person } from "./person";
import { chooseTheme, currentTheme } from "./theme";

/** The strip at the left, the command bar, and the place in between. */
export function Frame() {
  const [theme, setTheme] = useState(currentTheme());
  const [commands, setCommands] = useState(false);
  const at = useLocation().pathname;
  const other = theme === "linen" ? "lamplight" : "linen";
  const switchTheme = () => {
    chooseTheme(other);
    setTheme(other);
  };
  useEffect(() => {
    const open = (e: KeyboardEvent) => {
      if (e.key.toLowerCase() === "k" && (e.ctrlKey || e.metaKey)) {
        e.preventDefault();
        setCommands(true);
      }
    };
    window.addEventListener("keydown", open);
    return () => window.removeEventListener("keydown", open);
  }, []);
  const on = (here: boolean) => (here ? "on" : "");
  return (
    <div className="app">
      <nav className="strip" aria-label="Places">
        <div className="mark" aria-hidden="true">
          weft
        </div>
        <NavLink to="/" className={on(at === "/" || at.startsWith("/desk"))}>
          <DoorOpen aria-hidden="true" />
          Doors
        </NavLink>
        <NavLink to="/tables" className={on(at.startsWith("/tables") || at.startsWith("/imports"))}>
          <Table2 aria-hidden="true" />
          Tables
        </NavLink>
        <NavLink to="/forms" className={on(at.startsWith("/forms") || at.startsWith("/bench"))}>
          <ListChecks aria-hidden="true" />
          Forms
        </NavLink>
        <button
          type="button"
          className="sm:mt-auto"
          onClick={() => setCommands(true)}
          title="Go to… (Ctrl+K)"
        >
          <Search aria-hidden="true" />
          Go to
        </button>
        <button type="button" onClick={switchTheme} title={`Switch to the ${other} theme`}>
          {theme === "linen" ? <Moon aria-hidden="true" /> : <Sun aria-hidden="true" />}
          {theme === "linen" ? "Dark" : "Light"}
        </button>
        <button
          type="button"
          onClick={() => window.dispatchEvent(new KeyboardEvent("keydown", { key: "F1" }))}
          title="All the keys (F1)"
          className={at.startsWith("/desk") ? "" : "hidden!"}
        >
          <CircleHelp aria-hidden="true" />
          Keys
        </button>
        <Person />
      </nav>
      <Outlet />
      {commands && <CommandBar close={() => setCommands(false)} switchTheme={switchTheme} />}
    </div>
  );
}

/** Who is at this keyboard; the history of records names them. */
function Person() {
  const [name, setName] = useState(person());
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        className="who"
        title={name || "Say who you are"}
        aria-label={name ? `You are ${name}` : "Say who you are"}
        onClick={() => setOpen(true)}
      >
        {initials(name) || "?"}
      </button>
      {open && (
        <Cover name="Who is at this keyboard?" close={() => setOpen(false)}>
          <form
            className="grid gap-3 p-5"
            onSubmit={(e) => {
              e.preventDefault();
              choosePerson(name);
              setName(person());
              setOpen(false);
            }}
          >
            <label className="grid gap-1">
              <span className="font-semibold">Who is at this keyboard?</span>
              <input
                className="entry"
                // biome-ignore lint/a11y/noAutofocus: it is all there is to do here
                autoFocus
                maxLength={60}
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
            </label>
            <p className="text-soft">The history of the records you enter and change will name you.</p>
            <button type="submit" className="btn go justify-self-start">
              That is me <kbd>Enter</kbd>
            </button>
          </form>
        </Cover>
      )}
    </>
  );
}
