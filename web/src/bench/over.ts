/** What is seen instead of the Bench's usual side, or lies over it, if anything. */
export type Over =
  | "frays"
  | "publish"
  | "versions"
  | "settings"
  | "rehearsal"
  | { column: string }
  | undefined;
