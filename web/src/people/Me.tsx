import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import { sessionQuery } from "./session";

const Myself = lazy(() => import("./Myself").then((m) => ({ default: m.Myself })));

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
        <Suspense fallback={null}>
          <Myself person={person} close={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}
