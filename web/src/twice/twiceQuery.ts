import { answered, api } from "../api/client";
import { queryKeyOf } from "../api/keys";

/** What waits at a door to be keyed again and settled, looked at anew while one looks. */
export const twiceQuery = (door: string) => ({
  queryKey: queryKeyOf("twice", door),
  queryFn: () => answered(api.GET("/api/doors/{door}/twice", { params: { path: { door } } })),
  refetchInterval: 15_000,
});
