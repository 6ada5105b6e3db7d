import { useQuery } from "@tanstack/react-query";
import { CircleHelp, DoorOpen, ListChecks, Moon, Search, Sun, Table2, Users } from "lucide-react";
import { useEffect, useState } from "react";
import { NavLink, Outlet, useLocation } from "react-router";
import { Gate } from "../people/Gate";
import { Me } from "../people/Me";
import { administers, builds, sessionQuery } from "../people/session";
import { chooseTheme, currentTheme } from "./theme";

/** Fetched at once, beside the place that is opened, and not before it; asked for again where that failed. */
const commandBar = () => import("./CommandBar");
commandBar().catch(() => {});
type Overs = Awaited<ReturnType<typeof commandBar>>;
type Over = Overs["CommandBar"];

const openOver = (set: (over: () => Over) => void, which: keyof Overs) =>
  commandBar().then(
    (overs) => set(() => overs[which]),
    () => {},
  );

/** All places, for whoever is signed in. */
export function Frame() {
  return (
    <Gate>
      <Places />
    </Gate>
  );
}

/** The strip at the left, the command bar, and the place in between. */
function Places() {
  const person = useQuery(sessionQuery).data?.person;
  const [theme, setTheme] = useState(currentTheme());
  const [Commands, setCommands] = useState<Over>();
  const at = useLocation().pathname;
  const other = theme === "linen" ? "lamplight" : "linen";
  const switchTheme = () => {
    chooseTheme(other);
    setTheme(other);
  };
  useEffect(() => {
    const open = (e: KeyboardEvent) => {
      const commands = e.key.toLowerCase() === "k" && (e.ctrlKey || e.metaKey);
      // Places have keys of their own to tell, and say that they did.
      if (!commands && (e.key !== "F1" || e.defaultPrevented)) return;
      e.preventDefault();
      openOver(setCommands, commands ? "CommandBar" : "PlaceKeys");
    };
    window.addEventListener("keydown", open);
    return () => window.removeEventListener("keydown", open);
  }, []);
  const on = (here: boolean) => (here ? "on" : "");
  return (
    <div className="app">
      <nav className="strip" aria-label="Places">
        <div className="word" aria-hidden="true">
          weft
        </div>
        <NavLink to="/" className={on(at === "/" || at.startsWith("/d/"))}>
          <DoorOpen aria-hidden="true" />
          Doors
        </NavLink>
        {builds(person) && (
          <>
            <NavLink to="/tables" className={on(at.startsWith("/tables") || at.startsWith("/imports"))}>
              <Table2 aria-hidden="true" />
              Tables
            </NavLink>
            <NavLink to="/forms" className={on(at.startsWith("/forms") || at.startsWith("/bench"))}>
              <ListChecks aria-hidden="true" />
              Forms
            </NavLink>
          </>
        )}
        {administers(person) && (
          <NavLink to="/people" className={on(at.startsWith("/people"))}>
            <Users aria-hidden="true" />
            People
          </NavLink>
        )}
        <button
          type="button"
          className="sm:mt-auto"
          onClick={() => openOver(setCommands, "CommandBar")}
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
          onClick={() => window.dispatchEvent(new KeyboardEvent("keydown", { key: "F1", cancelable: true }))}
          title="All the keys (F1)"
        >
          <CircleHelp aria-hidden="true" />
          Keys
        </button>
        <Me />
      </nav>
      <Outlet />
      {Commands && <Commands close={() => setCommands(undefined)} switchTheme={switchTheme} />}
    </div>
  );
}
