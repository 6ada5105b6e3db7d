import { useQuery } from "@tanstack/react-query";
import { doorsQuery } from "../api/queries";

/** By which door whoever is here comes to what a step or a button opens: the door itself, or one of theirs to that form. */
export function useDoorTo(): (opens: string) => string {
  const doors = useQuery(doorsQuery).data ?? [];
  return (opens) =>
    (doors.find(({ id }) => id === opens) ?? doors.find(({ form }) => form === opens))?.id ?? opens;
}
