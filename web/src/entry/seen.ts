import type { Assessment } from "../api/client";
import type { Typed } from "./outbox";

export type Read = Pick<Assessment, "fields" | "values">;

/** What fills bring where something else is typed, as far as it was shown. */
export function seenIn(typed: Typed, read: Read | undefined): Typed | undefined {
  const seen = Object.entries(read?.fields ?? {}).flatMap(([column, { source, origin }]) => {
    const shown = source ?? (origin === "filled" ? read?.values[column] : undefined);
    return typed[column]?.trim() && (typeof shown === "string" || typeof shown === "number")
      ? [[column, String(shown)] as const]
      : [];
  });
  return seen.length > 0 ? Object.fromEntries(seen) : undefined;
}
