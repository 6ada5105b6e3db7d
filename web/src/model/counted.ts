/** A number as people read it: 1,234. */
const grouped = (many: number): string => many.toLocaleString("en");

/** So many of something: *1 row*, *1,234 rows*. */
export const counted = (many: number, one: string, several = `${one}s`): string =>
  `${grouped(many)} ${many === 1 ? one : several}`;
