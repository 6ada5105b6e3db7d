import { createContext, use } from "react";
import { shown, type Way } from "./shown";

/** How dates and numbers are written here: as the form does that one is at, or as they are stored where there is none. */
export const WayOf = createContext<Way | undefined>(undefined);

/** Shows values so. */
export function useShown(): (value: unknown, type?: string) => string {
  const way = use(WayOf);
  return (value, type) => shown(value, type, way);
}
