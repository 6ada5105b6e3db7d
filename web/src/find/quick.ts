/** The id of the box that finds in any field, which keys go to. */
export const QUICK = "find-anywhere";
