import { queryOptions } from "@tanstack/react-query";
import { answered, api, type StoredRecord } from "../api/client";

/** How many row numbers a page of rows spans. */
export const PAGE = 100;

/** The records whose row numbers lie in a page, by row number. A number without a record is a free row. */
export const rowsQuery = (table: string, page: number) =>
  queryOptions({
    queryKey: ["rows", table, page],
    queryFn: async () => {
      const query = { after: page * PAGE, limit: PAGE, sort: "row" };
      const found = await answered(
        api.GET("/api/tables/{table}/records", { params: { path: { table }, query } }),
      );
      const byRow = new Map<number, StoredRecord>();
      for (const record of found.records) if (record.row <= (page + 1) * PAGE) byRow.set(record.row, record);
      return byRow;
    },
    gcTime: 30_000,
  });
