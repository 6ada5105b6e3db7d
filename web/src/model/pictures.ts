import { createContext } from "react";
import { problem, token, Unreached } from "../api/client";

/** Where pictures are brought to and come from: for builders anywhere, for others by a door. */
export const Pictures = createContext("/api/pictures");

/** Where those of a door are. */
export const picturesAt = (door: string) => `/api/doors/${door}/pictures`;

/** Brings a picture there; its identity, or why it is not taken. */
export async function bringPicture(where: string, file: File): Promise<string> {
  const body = new FormData();
  body.append("file", file);
  const answer = await fetch(where, {
    method: "POST",
    body,
    headers: { "X-XSRF-TOKEN": token() },
  }).catch(() => {
    throw new Unreached();
  });
  const told = await answer.json();
  if (!answer.ok) throw problem(answer.status, told);
  return told.id;
}
