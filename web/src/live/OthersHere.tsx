import { inWords, type Place, useOthers } from "./useOthers";

/** Who else is here. */
export function OthersHere({ place }: { place: Place }) {
  const others = useOthers(place);
  return others.length > 0 ? (
    <span className="chip here" title={others.join(", ")}>
      {inWords(others)}
    </span>
  ) : null;
}
