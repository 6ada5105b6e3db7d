import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { answered, api, Problem, type Schemas } from "../api/client";
import { queryKeyOf } from "../api/keys";

export type DoorAnswer = Schemas["DoorAnswer"];
export type DoorDocument = Schemas["DoorJson"];

export const doorsOfQuery = (form: string) => ({
  queryKey: queryKeyOf("doors-of", form),
  queryFn: () => answered(api.GET("/api/forms/{form}/doors", { params: { path: { form } } })),
});

const SAVE_AFTER = 400;

/** The document of what is known of a door. */
const document = ({ everything: _e, linked: _l, frays: _f, twice, ...door }: DoorAnswer): DoorDocument => ({
  ...door,
  twice: twice ?? undefined,
});

/** A door that is worked on. Each change is shown at once and saved a moment later, on the version that was seen. */
export function useDoor(form: string, id: string) {
  const queries = useQueryClient();
  const path = { form, door: id };
  const [trouble, setTrouble] = useState<unknown>();
  const [door, setDoor] = useState<DoorAnswer>();
  const seen = useRef("");
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const fetched = useQuery({
    queryKey: queryKeyOf("door-of", form, id),
    queryFn: async () => {
      const asked = api.GET("/api/forms/{form}/doors/{door}", { params: { path } });
      const got = await answered(asked);
      return { got, tag: (await asked).response.headers.get("ETag") ?? "" };
    },
    refetchOnMount: "always",
  });
  useEffect(() => {
    if (!fetched.data) return;
    seen.current = fetched.data.tag;
    setDoor(fetched.data.got);
  }, [fetched.data]);

  const told = () => {
    queries.invalidateQueries({ queryKey: queryKeyOf("doors-of", form) });
    queries.invalidateQueries({ queryKey: queryKeyOf("door-picture", id) });
    queries.invalidateQueries({ queryKey: queryKeyOf("published", id, true) });
    queries.invalidateQueries({ queryKey: queryKeyOf("seen-table", id, true) });
    queries.invalidateQueries({ queryKey: queryKeyOf("doors") });
  };
  const save = async (now: DoorAnswer) => {
    try {
      const asked = api.PUT("/api/forms/{form}/doors/{door}", {
        params: { path, header: { "If-Match": seen.current } },
        body: document(now),
      });
      const kept = await answered(asked);
      seen.current = (await asked).response.headers.get("ETag") ?? "";
      setTrouble(undefined);
      // What was changed meanwhile stays.
      setDoor((shown) =>
        shown === now ? kept : shown && { ...shown, frays: kept.frays, linked: kept.linked },
      );
      told();
    } catch (e) {
      setTrouble(e);
      if (e instanceof Problem && e.status === 412) fetched.refetch();
    }
  };
  const change = (changed: Partial<DoorAnswer>) => {
    if (!door) return;
    const now = { ...door, ...changed };
    setDoor(now);
    clearTimeout(timer.current);
    timer.current = setTimeout(() => save(now), SAVE_AFTER);
  };
  const remove = async () => {
    await answered(api.DELETE("/api/forms/{form}/doors/{door}", { params: { path } }));
    told();
  };
  const link = async () => {
    const { address } = await answered(api.POST("/api/forms/{form}/doors/{door}/link", { params: { path } }));
    fetched.refetch();
    told();
    return address;
  };
  return { door, trouble: trouble ?? fetched.error, change, remove, link };
}
