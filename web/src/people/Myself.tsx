import { useState } from "react";
import { Cover } from "../ui/Cover";
import { Trouble } from "../ui/Trouble";
import { changePassword, type Person, signOut } from "./session";
import { Tokens } from "./Tokens";

/** What one can do about who is signed in: sign out, another password, tokens. */
export function Myself({ person, close }: { person: Person; close: () => void }) {
  const leave = async () => {
    await signOut();
    window.location.assign("/");
  };
  return (
    <Cover name={person.title} close={close}>
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
          Current password
          <input
            className="entry"
            type="password"
            autoComplete="current-password"
            value={old}
            onChange={(e) => setOld(e.target.value)}
          />
        </label>
        <label className="grid gap-1">
          New password
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
