import { useState } from "react";
import { Trouble } from "../ui/Trouble";
import { type Person, type Session, signIn } from "./session";

interface Props {
  session: Session;
  /** Who was here before; they come back to what they were doing. */
  before?: Person;
  signed: (person: Person) => void;
}

/** The form for signing in; with the demo, its people, one press each. */
export function SignIn({ session, before, signed }: Props) {
  const [name, setName] = useState(before?.name ?? "");
  const [password, setPassword] = useState("");
  const [trouble, setTrouble] = useState<unknown>(
    window.location.search === "?refused" ? "You were not let in. An administrator can tell why." : undefined,
  );
  const [busy, setBusy] = useState(false);
  const come = async (who: string, by: string) => {
    if (busy) return;
    setBusy(true);
    try {
      signed(await signIn(who, by));
    } catch (e) {
      setTrouble(e);
      setPassword("");
      document.getElementById("password")?.focus();
    } finally {
      setBusy(false);
    }
  };
  const offered = session.offered ?? [];
  return (
    <div className="grid gap-5">
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          come(name, password);
        }}
      >
        <Trouble error={trouble} />
        <label className="grid gap-1">
          <span className="font-semibold">Name</span>
          <input
            className="entry"
            autoComplete="username"
            autoCapitalize="none"
            // biome-ignore lint/a11y/noAutofocus: it is what one comes here for
            autoFocus={!before}
            readOnly={!!before}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <label className="grid gap-1">
          <span className="font-semibold">Password</span>
          <input
            id="password"
            className="entry"
            type="password"
            autoComplete="current-password"
            // biome-ignore lint/a11y/noAutofocus: it is what is left to type
            autoFocus={!!before}
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
        </label>
        <button type="submit" className="btn go justify-self-start" disabled={busy}>
          Sign in <kbd>Enter</kbd>
        </button>
      </form>
      {session.issuer && !before && (
        <p className="border-t border-line pt-4">
          <a className="btn" href={session.begins}>
            Sign in by {session.issuer}
          </a>
        </p>
      )}
      {offered.length > 0 && !before && (
        <section aria-labelledby="demo" className="grid gap-2 border-t border-line pt-4">
          <h2 id="demo">The demo’s people</h2>
          <p className="text-soft">
            They are made up, and offered only on this machine and while their password is still{" "}
            <span className="font-mono">{session.password}</span>. One press signs in.
          </p>
          <ul className="grid gap-2 sm:grid-cols-2">
            {offered.map((each) => (
              <li key={each.name}>
                <button
                  type="button"
                  className="box grid w-full cursor-pointer gap-0.5 px-3 py-2 text-left hover:border-indigo"
                  disabled={busy}
                  onClick={() => come(each.name, session.password ?? "")}
                >
                  <span className="font-semibold">{each.title}</span>
                  <span className="text-[13.5px] text-soft">{each.groups.join(", ")}</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}
