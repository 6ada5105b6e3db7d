import type { Way } from "./shown";

/** A number as people read it, in the way of the form it stands in: 1,234 or 1.234. */
export const grouped = (many: number, way?: Pick<Way, "decimalSign">): string =>
  many.toLocaleString(way?.decimalSign === "comma" ? "de" : "en");

/** So many of something: *1 row*, *1,234 rows*. */
export const counted = (
  many: number,
  one: string,
  several = `${one}s`,
  way?: Pick<Way, "decimalSign">,
): string => `${grouped(many, way)} ${many === 1 ? one : several}`;
