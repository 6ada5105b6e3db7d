import { queryOptions } from "@tanstack/react-query";
import { type Schemas, token, Unreached } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { keepZone } from "../model/when";

export type Person = Schemas["PersonSigned"];

/** Who is signed in; or, when nobody is, what the page for signing in must know. */
export interface Session {
  person?: Person;
  /** The zone that stamps are told in. */
  zone?: string;
  /** Whether nobody can sign in yet. */
  empty?: boolean;
  /** The demo's people, who can be chosen with one press. */
  offered?: { name: string; title: string; groups: string[] }[];
  password?: string;
  /** Whom else one can sign in by, and where that begins. */
  issuer?: string;
  begins?: string;
}

async function asked(method: string, path: string, body?: unknown): Promise<Response> {
  return fetch(path, {
    method,
    body: body === undefined ? undefined : JSON.stringify(body),
    headers: { "Content-Type": "application/json", "X-XSRF-TOKEN": token() },
  }).catch(() => {
    throw new Unreached();
  });
}

export const sessionQuery = queryOptions({
  queryKey: queryKeyOf("session"),
  queryFn: async (): Promise<Session> => {
    const answer = await asked("GET", "/api/session");
    if (!answer.ok && answer.status !== 401) throw new Unreached();
    const session: Session = await answer.json();
    if (session.zone) keepZone(session.zone);
    return session;
  },
  staleTime: Number.POSITIVE_INFINITY,
  retry: true,
  retryDelay: 1_000,
});

/** What a request to the session came to: who is signed in now, or a sentence. */
async function came(answer: Response): Promise<Person> {
  const told = await answer.json().catch(() => ({}));
  if (answer.ok) {
    keepZone(told.zone);
    return told.person;
  }
  throw new Error(told.errors?.[0]?.message ?? told.detail ?? "Weft could not do this. Try again.");
}

export const signIn = async (name: string, password: string) =>
  came(await asked("POST", "/api/session", { name, password }));

/** Whether somebody is signed in. */
export const signedIn = async () => (await asked("GET", "/api/session")).ok;

export async function signOut() {
  await asked("DELETE", "/api/session");
}

export interface Invited {
  name: string;
  title: string;
}

export async function invited(secret: string): Promise<Invited> {
  const answer = await asked("GET", `/api/invitations/${encodeURIComponent(secret)}`);
  const told = await answer.json();
  if (!answer.ok) throw new Error(told.detail);
  return told;
}

export const accept = async (secret: string, body: { name?: string; title?: string; password: string }) =>
  came(await asked("POST", `/api/invitations/${encodeURIComponent(secret)}`, body));

export async function changePassword(old: string, password: string) {
  const answer = await asked("PUT", "/api/session/password", { old, password });
  if (!answer.ok) await came(answer);
}

export const builds = (person: Person | undefined) => !!person?.groups.includes("Builders");
export const administers = (person: Person | undefined) => !!person?.groups.includes("Administrators");
