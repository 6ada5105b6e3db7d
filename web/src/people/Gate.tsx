import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, type ReactNode, Suspense, useEffect, useState } from "react";
import { whenLeft } from "../api/client";
import { keepFor } from "../entry/mine";
import { Cover } from "../ui/Cover";
import { Quiet } from "./Quiet";
import { type Person, sessionQuery, signedIn } from "./session";

const SignIn = lazy(() => import("./SignIn").then((m) => ({ default: m.SignIn })));

/** Hands that pressed no key for so long are still. */
const STILL = 900;

/** Lets in who is signed in. Who is signed out in the middle of something signs in again over it, and goes on. */
export function Gate({ children }: { children: ReactNode }) {
  const session = useQuery(sessionQuery);
  const queries = useQueryClient();
  const [ended, setEnded] = useState(false);
  const person = session.data?.person;
  useEffect(() => {
    // Keys that are under way belong to the form: one signs in when the hands are still.
    let pressed = 0;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const still = () => {
      timer = undefined;
      const left = pressed + STILL - Date.now();
      if (left > 0) timer = setTimeout(still, left);
      // A refusal may come late, of what was asked before one signed in again.
      else
        signedIn().then(
          (still) => still || setEnded(true),
          () => {},
        );
    };
    const key = () => {
      pressed = Date.now();
    };
    window.addEventListener("keydown", key, true);
    whenLeft(() => {
      timer ??= setTimeout(still, 0);
    });
    return () => {
      window.removeEventListener("keydown", key, true);
      clearTimeout(timer);
      whenLeft(() => {});
    };
  }, []);
  const signed = (who: Person) => {
    if (person && who.id !== person.id) {
      // What the page shows is the other's.
      window.location.assign("/");
      return;
    }
    setEnded(false);
    queries.setQueryData(sessionQuery.queryKey, { person: who });
    queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "session" });
  };
  if (!session.data) return null;
  if (!person) {
    return (
      <Quiet title="Sign in">
        {session.data.empty ? (
          <p>
            Nobody can sign in yet. Whoever started Weft finds the address for the first administrator where
            it was started.
          </p>
        ) : (
          <Suspense fallback={null}>
            <SignIn session={session.data} signed={signed} />
          </Suspense>
        )}
      </Quiet>
    );
  }
  keepFor(person.name);
  return (
    <>
      {children}
      {ended && (
        <Cover name="Sign in again" close={() => {}}>
          <div className="grid gap-3 p-5">
            <h2>Sign in again</h2>
            <p className="text-soft">
              Your session has ended. What you typed is still here, and goes on from where it was.
            </p>
            <Suspense fallback={null}>
              <SignIn session={{}} before={person} signed={signed} />
            </Suspense>
          </div>
        </Cover>
      )}
    </>
  );
}
