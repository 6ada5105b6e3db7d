import { useSyncExternalStore } from "react";
import type { Subscribable } from "./subscribable";

/** What it is now; the component is drawn again when that changes. */
export const useSubscribed = <State>(of: Subscribable<State>): State =>
  useSyncExternalStore(of.subscribe, of.snapshot);
