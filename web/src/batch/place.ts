import { mine } from "../entry/mine";

/** Where the lines keyed at a door are kept in the browser's storage: each page's apart, the same through its reloads. */
export function placeOf(door: string): string {
  const kept = sessionStorage.getItem("weft.lines") ?? Math.random().toString(36).slice(2);
  sessionStorage.setItem("weft.lines", kept);
  return `${mine("lines")}${door} ${kept}`;
}
