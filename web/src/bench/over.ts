/** What lies over the form on the Bench, if anything. */
export type Over =
  | "frays"
  | "publish"
  | "versions"
  | "settings"
  | "rules"
  /** A rule that the run sheet led to; from it one goes back there. */
  | { rule: string }
  | "rehearsal"
  | { column: string }
  | undefined;
