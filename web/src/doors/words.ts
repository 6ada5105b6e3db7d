import type { May } from "../api/client";
import type { DoorAnswer } from "./useDoor";

/** What may be done, in a few words. */
export function may(what: May[]): string {
  if (what.length === 5) return "everything";
  if (what.length === 1 && what[0] === "add") return "add only";
  if (what.length === 1 && what[0] === "see") return "look only";
  return what.join(", ") || "nothing yet";
}

/** A door in one line: who, what, and which records. */
export function inOneLine(door: DoorAnswer): string {
  const who = [
    ...(door.who.groups ?? []),
    ...(door.who.people ?? []),
    ...(door.who.link ? ["anybody with the address"] : []),
  ];
  const view = [
    ...(door.view.where ?? []).map((each) => each.replace(":", " ")),
    ...(door.view.own ? ["their own"] : []),
  ];
  return [
    who.join(", ") || "nobody yet",
    may(door.may),
    door.may.includes("see") ? view.join(", ") || "all records" : "no record is shown",
  ].join(" · ");
}
