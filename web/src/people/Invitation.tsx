import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { queryKeyOf } from "../api/keys";
import { Trouble } from "../ui/Trouble";
import { Quiet } from "./Quiet";
import { accept, invited, sessionQuery } from "./session";

/** Where an invitation is taken up: one chooses a password, and is in. */
export function Invitation() {
  const secret = useParams().secret ?? "";
  const invitation = useQuery({
    queryKey: queryKeyOf("invitation", secret),
    queryFn: () => invited(secret),
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const [name, setName] = useState("");
  const [title, setTitle] = useState("");
  const [password, setPassword] = useState("");
  const [trouble, setTrouble] = useState<unknown>();
  const queries = useQueryClient();
  const navigate = useNavigate();
  if (invitation.error)
    return (
      <Quiet title="This invitation is over">
        <Trouble error={invitation.error} />
      </Quiet>
    );
  if (!invitation.data) return null;
  const first = invitation.data.name === "";
  const come = async () => {
    try {
      const person = await accept(secret, first ? { name, title, password } : { password });
      queries.setQueryData(sessionQuery.queryKey, { person });
      navigate("/", { replace: true });
    } catch (e) {
      setTrouble(e);
    }
  };
  return (
    <Quiet title={first ? "The first administrator" : `Welcome, ${invitation.data.title}`}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          come();
        }}
      >
        <Trouble error={trouble} />
        {first ? (
          <>
            <p className="text-soft">
              You see to people and groups, and make tables, forms and doors. Both can be handed on later.
            </p>
            <label className="grid gap-1">
              <span className="font-semibold">Your name, as others read it</span>
              <input
                className="entry"
                autoComplete="name"
                // biome-ignore lint/a11y/noAutofocus: it is what one comes here for
                autoFocus
                value={title}
                onChange={(e) => setTitle(e.target.value)}
              />
            </label>
            <label className="grid gap-1">
              <span className="font-semibold">Name to sign in with</span>
              <input
                className="entry"
                autoComplete="username"
                autoCapitalize="none"
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
              <span className="text-[13.5px] text-soft">Small letters and digits; it stays for good.</span>
            </label>
          </>
        ) : (
          <p>
            You sign in with the name <b className="font-mono">{invitation.data.name}</b>. Choose a password
            for it.
          </p>
        )}
        <label className="grid gap-1">
          <span className="font-semibold">Password</span>
          <input
            className="entry"
            type="password"
            autoComplete="new-password"
            // biome-ignore lint/a11y/noAutofocus: it is what one comes here for
            autoFocus={!first}
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
          <span className="text-[13.5px] text-soft">Ten characters or more; four words do well.</span>
        </label>
        <button type="submit" className="btn go justify-self-start">
          Sign in <kbd>Enter</kbd>
        </button>
      </form>
    </Quiet>
  );
}
