import { queryOptions } from "@tanstack/react-query";
import { answered, api } from "./client";

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
    queryFn: () => answered(api.GET("/api/forms/{form}/published", { params: { path: { form } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const nextRowQuery = (form: string) =>
  queryOptions({
    queryKey: ["next-row", form],
    queryFn: () => answered(api.GET("/api/forms/{form}/next-row", { params: { path: { form } } })),
  });
