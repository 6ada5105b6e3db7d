import { queryOptions } from "@tanstack/react-query";
import { answered, api, type Form } from "./client";
import { queryKeyOf } from "./keys";

export const formsQuery = queryOptions({
  queryKey: queryKeyOf("forms"),
  queryFn: () => answered(api.GET("/api/forms")),
});

export const tablesQuery = queryOptions({
  queryKey: queryKeyOf("tables"),
  queryFn: () => answered(api.GET("/api/tables")),
});

export const tableQuery = (table: string) =>
  queryOptions({
    queryKey: queryKeyOf("table", table),
    queryFn: () => answered(api.GET("/api/tables/{table}", { params: { path: { table } } })),
  });

/** What uses a table. */
export const dependentsQuery = (table: string) => ({
  queryKey: queryKeyOf("dependents", table),
  queryFn: () => answered(api.GET("/api/tables/{table}/dependents", { params: { path: { table } } })),
});

/** The doors that whoever is signed in may go through. */
export const doorsQuery = queryOptions({
  queryKey: queryKeyOf("doors"),
  queryFn: () => answered(api.GET("/api/doors")),
});

/** What a day begins with. */
export const dayQuery = queryOptions({
  queryKey: queryKeyOf("day"),
  queryFn: () => answered(api.GET("/api/day")),
  staleTime: 60_000,
});

export const doorQuery = (door: string, tried = false) =>
  queryOptions({
    queryKey: queryKeyOf("door", door, tried),
    queryFn: () => answered(api.GET("/api/doors/{door}", { params: { path: { door } } })),
  });

/** The table behind a door, as far as it is seen. */
export const seenTableQuery = (door: string, tried = false) =>
  queryOptions({
    queryKey: queryKeyOf("seen-table", door, tried),
    queryFn: () => answered(api.GET("/api/doors/{door}/table", { params: { path: { door } } })),
  });

export const publishedQuery = (door: string, tried = false) =>
  queryOptions({
    queryKey: queryKeyOf("published", door, tried),
    queryFn: () => withRevision(api.GET("/api/doors/{door}/published", { params: { path: { door } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** What the rules of the published form make of each field. */
export const ruledQuery = (door: string, tried = false) =>
  queryOptions({
    queryKey: queryKeyOf("ruled", door, tried),
    queryFn: () => answered(api.GET("/api/doors/{door}/ruled", { params: { path: { door } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** What lines of a form are made of, by that version of it. */
export const linesQuery = (door: string, lines: string, version: number | undefined) =>
  queryOptions({
    queryKey: queryKeyOf("lines-of", door, lines, version),
    queryFn: () =>
      answered(api.GET("/api/doors/{door}/lines/{lines}", { params: { path: { door, lines } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** A form document and the version or revision that its entity tag names. */
export interface Revised {
  form: Form;
  revision: number;
}

/** The document of an answer with the revision it is of. */
export async function withRevision(
  asked: Promise<{ data?: Form; error?: unknown; response: Response }>,
): Promise<Revised> {
  const form = await answered(asked);
  const tag = (await asked).response.headers.get("ETag") ?? "";
  return { form, revision: Number(tag.replace(/\D/g, "")) };
}

export const workingCopyQuery = (form: string) =>
  queryOptions({
    queryKey: queryKeyOf("working-copy", form),
    queryFn: () => withRevision(api.GET("/api/forms/{form}", { params: { path: { form } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const nextRowQuery = (door: string) =>
  queryOptions({
    queryKey: queryKeyOf("next-row", door),
    queryFn: () => answered(api.GET("/api/doors/{door}/next-row", { params: { path: { door } } })),
  });
