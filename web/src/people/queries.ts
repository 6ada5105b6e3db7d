import { infiniteQueryOptions } from "@tanstack/react-query";
import { answered, api } from "../api/client";
import { queryKeyOf } from "../api/keys";

const PAGE = 100;

/** Persons by name, so many at a time. */
export const peopleQuery = infiniteQueryOptions({
  queryKey: queryKeyOf("people"),
  initialPageParam: "",
  queryFn: ({ pageParam }) => answered(api.GET("/api/people", { params: { query: { after: pageParam } } })),
  getNextPageParam: (page) => (page.length < PAGE ? undefined : page.at(-1)?.name),
});

export const groupsQuery = {
  queryKey: queryKeyOf("groups"),
  queryFn: () => answered(api.GET("/api/groups")),
};
