import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { answered, api } from "./client";

const EVERY = 15_000;

/** Who else has the form's table open, or its Bench, asked again and again, which also tells that this page is here. */
export function useOthers(form: string, bench = false): string[] {
  const seat = useMemo(
    () => Array.from({ length: 16 }, () => Math.floor(Math.random() * 16).toString(16)).join(""),
    [],
  );
  const path = { form, seat };
  const others = useQuery({
    queryKey: ["others", form, seat],
    queryFn: () =>
      answered(
        api.PUT(bench ? "/api/forms/{form}/bench/seats/{seat}" : "/api/forms/{form}/seats/{seat}", {
          params: { path },
        }),
      ),
    refetchInterval: EVERY,
    staleTime: 0,
  });
  useEffect(() => {
    const leave = () => {
      fetch(`/api/forms/${form}/seats/${seat}`, { method: "DELETE", keepalive: true });
    };
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      leave();
    };
  }, [form, seat]);
  return others.data?.others ?? [];
}

/** Those who are here too, in the fewest words. */
export function inWords(others: string[]): string {
  const [first] = others;
  if (!first) return "";
  if (others.length > 1) return `${others.length} others are here too`;
  return `${first === "somebody" ? "Somebody else" : first} is here too`;
}
