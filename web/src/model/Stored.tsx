import { use } from "react";
import { Pictures } from "./pictures";
import { useShown } from "./way";

/** A stored value where rows are listed: as text, or the picture, small. */
export function Stored({ value, type }: { value: unknown; type: string | undefined }) {
  const pictures = use(Pictures);
  const shown = useShown();
  if (type === "picture" && value)
    return <img className="small-picture" src={`${pictures}/${value}?small=true`} alt="" loading="lazy" />;
  return <>{shown(value, type)}</>;
}
