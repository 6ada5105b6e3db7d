import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { answered, api, token } from "../api/client";
import { queryKeyOf } from "../api/keys";

const EVERY = 15_000;

/** A place where others may be too: a door to a table, or the Bench of a form. */
export type Place = { door: string } | { bench: string };

/** Who else has the door's table open, or the Bench, asked again and again, which also tells that this page is here. */
export function useOthers(place: Place): string[] {
  const seat = useMemo(
    () => Array.from({ length: 16 }, () => Math.floor(Math.random() * 16).toString(16)).join(""),
    [],
  );
  const [kind, id] = "door" in place ? ["doors", place.door] : ["forms", place.bench];
  const others = useQuery({
    queryKey: queryKeyOf("others", kind, id, seat),
    queryFn: () =>
      answered(
        kind === "doors"
          ? api.PUT("/api/doors/{door}/seats/{seat}", { params: { path: { door: id, seat } } })
          : api.PUT("/api/forms/{form}/bench/seats/{seat}", { params: { path: { form: id, seat } } }),
      ),
    refetchInterval: EVERY,
    staleTime: 0,
  });
  useEffect(() => {
    const leave = () => {
      fetch(`/api/${kind}/${id}${kind === "forms" ? "/bench" : ""}/seats/${seat}`, {
        method: "DELETE",
        keepalive: true,
        headers: { "X-XSRF-TOKEN": token() },
      });
    };
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      leave();
    };
  }, [kind, id, seat]);
  return others.data?.others ?? [];
}

/** Those who are here too, in the fewest words. */
export function inWords(others: string[]): string {
  const [first] = others;
  if (!first) return "";
  return others.length > 1 ? `${others.length} others are here too` : `${first} is here too`;
}
