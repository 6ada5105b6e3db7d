import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Cover } from "../ui/Cover";
import { Trouble } from "../ui/Trouble";
import { changePassword, sessionQuery, signOut } from "./session";
import { Tokens } from "./Tokens";

/** One or two letters that stand for a name. */
export function initials(name: string): string {
  const words = name.split(/\s+/).filter(Boolean);
  return [words[0], words.length > 1 ? words.at(-1) : undefined]
    .map((word) => word?.[0]?.toUpperCase() ?? "")
    .join("");
}

/** Who is signed in, and what they can do about it. */
export function Me() {
  const person = useQuery(sessionQuery).data?.person;
  const [open, setOpen] = useState(false);
  if (!person) return null;
  const leave = async () => {
    await signOut();
    window.location.assign("/");
  };
  return (
    <>
      <button
        type="button"
        className="who"
        title={person.title}
        aria-label={`You are ${person.title}`}
        onClick={() => setOpen(true)}
      >
        {initials(person.title)}
      </button>
      {open && (
        <Cover name={person.title} close={() => setOpen(false)}>
          <div className="grid gap-4 p-5">
            <div className="flex items-start gap-4">
              <div className="flex-1">
                <h2>{person.title}</h2>
                <p className="text-soft">
                  <span className="font-mono">{person.name}</span>
                  {person.groups.length > 0 && ` · ${person.groups.join(", ")}`}
                </p>
              </div>
              <button type="button" className="btn go" onClick={leave}>
                Sign out
              </button>
            </div>
            <Password />
            <Tokens />
          </div>
        </Cover>
      )}
    </>
  );
}

function Password() {
  const [old, setOld] = useState("");
  const [password, setPassword] = useState("");
  const [trouble, setTrouble] = useState<unknown>();
  const [said, setSaid] = useState("");
  const change = async () => {
    try {
      await changePassword(old, password);
      setTrouble(undefined);
      setSaid("Your password is changed. Your other sessions have ended.");
      setOld("");
      setPassword("");
    } catch (e) {
      setTrouble(e);
    }
  };
  return (
    <form
      className="grid gap-3 border-t border-line pt-4"
      onSubmit={(e) => {
        e.preventDefault();
        change();
      }}
    >
      <h3 className="font-semibold">Another password</h3>
      <Trouble error={trouble} />
      {said && (
        <p role="status" className="text-woad">
          {said}
        </p>
      )}
      <div className="grid gap-3 sm:grid-cols-2">
        <label className="grid gap-1">
          The one you have
          <input
            className="entry"
            type="password"
            autoComplete="current-password"
            value={old}
            onChange={(e) => setOld(e.target.value)}
          />
        </label>
        <label className="grid gap-1">
          The new one
          <input
            className="entry"
            type="password"
            autoComplete="new-password"
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
        </label>
      </div>
      <button type="submit" className="btn justify-self-start">
        Change it
      </button>
    </form>
  );
}
