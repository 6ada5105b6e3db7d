import { useQueryClient } from "@tanstack/react-query";
import {
  answered,
  api,
  type Choice,
  type DeskForm as Form,
  Problem,
  type Ruled,
  type StoredRecord,
  type SeenTable as Table,
} from "../api/client";
import { text, texts } from "../entry/texts";
import { fieldsOf } from "../model/items";
import { isLink } from "../model/shown";
import type { InTheWay } from "../rows/CellInPlace";
import type { Correcting } from "../rows/RowsGrid";
import type { DeskDoings } from "../sitting/useDesk";

/** Corrects single cells of the rows, under the checks of the form and on the version that was seen. */
export function useCorrection(
  form: Form,
  table: Table,
  ruled: Ruled,
  desk: DeskDoings,
): Correcting | undefined {
  const queries = useQueryClient();
  const { sitting } = desk;
  if (!form.door.may.includes("change")) return undefined;
  const field = (column: string) =>
    fieldsOf(form).find(
      (each) =>
        each.column === column &&
        (!each.use || each.use === "open") &&
        each.widget !== "picture" &&
        !ruled[column]?.numbered &&
        !form.rules?.formulas.some(({ target, what }) => target === column && what === "calculated"),
    );
  /** What the record holds, as it would be sent unchanged. */
  const stored = (record: StoredRecord) => {
    const typed: Record<string, string | { id: number }> = { ...texts(form, table, record) };
    for (const [column, value] of Object.entries(record.values))
      if (isLink(value)) typed[column] = { id: value.id };
    return typed;
  };
  const keep = async (
    record: StoredRecord,
    column: string,
    typed: string,
    answers: Record<string, string>,
  ): Promise<InTheWay | undefined> => {
    const path = { door: form.door.id, id: record.id };
    const values = { ...stored(record), [column]: typed };
    const { version } = sitting.entry;
    try {
      const now = await answered(
        api.PUT("/api/doors/{door}/records/{id}", {
          params: { path, header: { "If-Match": `"${record.version}"` } },
          body: { values, version, answers },
        }),
      );
      await queries.invalidateQueries({
        predicate: ({ queryKey }) => ["rows", "view"].includes(String(queryKey[0])),
      });
      sitting.say(`Changed in row ${now.row}`, "ok");
      return undefined;
    } catch (e) {
      if (!(e instanceof Problem))
        return { message: `${(e as Error).message} Nothing was changed yet.`, answers: undefined };
      const asks = e.findings.length > 0 && e.findings.every(({ severity }) => severity === "ask");
      return {
        message: e.findings[0]?.message ?? e.message,
        answers: asks
          ? { ...answers, ...Object.fromEntries(e.findings.map(({ rule, code }) => [rule || code, "yes"])) }
          : undefined,
      };
    }
  };
  const list =
    (record: StoredRecord) =>
    (column: string, typed: string): Promise<Choice[]> =>
      answered(
        api.POST("/api/doors/{door}/choices/{column}", {
          params: { path: { door: form.door.id, column } },
          body: { typed, draft: { values: stored(record), version: sitting.entry.version } },
        }),
      );
  return {
    field,
    text: (record, column) => text(form, table, column, record.values[column]),
    list: (record, column) => (ruled[column]?.listed ? list(record) : undefined),
    keep,
    refused: (column) => sitting.say(`${column} is not corrected here. Enter on the row opens its form.`),
  };
}
