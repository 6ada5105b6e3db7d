import { queryOptions } from "@tanstack/react-query";
import { answered, api, type Form } from "./client";

export const formsQuery = queryOptions({
  queryKey: ["forms"],
  queryFn: () => answered(api.GET("/api/forms")),
});

export const tablesQuery = queryOptions({
  queryKey: ["tables"],
  queryFn: () => answered(api.GET("/api/tables")),
});

export const tableQuery = (table: string) =>
  queryOptions({
    queryKey: ["table", table],
    queryFn: () => answered(api.GET("/api/tables/{table}", { params: { path: { table } } })),
  });

export const publishedQuery = (form: string) =>
  queryOptions({
    queryKey: ["published", form],
    queryFn: () => withRevision(api.GET("/api/forms/{form}/published", { params: { path: { form } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** What the rules of the published form make of each field. */
export const ruledQuery = (form: string) =>
  queryOptions({
    queryKey: ["ruled", form],
    queryFn: () => answered(api.GET("/api/forms/{form}/ruled", { params: { path: { form } } })),
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
    queryKey: ["working-copy", form],
    queryFn: () => withRevision(api.GET("/api/forms/{form}", { params: { path: { form } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const nextRowQuery = (form: string) =>
  queryOptions({
    queryKey: ["next-row", form],
    queryFn: () => answered(api.GET("/api/forms/{form}/next-row", { params: { path: { form } } })),
  });
