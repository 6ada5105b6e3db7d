import { useQuery } from "@tanstack/react-query";

type Parts = typeof import("./parts");

let parts: Parts | undefined;

/**
 * The rest of the Desk, which is fetched as soon as its first script runs, beside the records: so it is there before one asks for
 * it, and when the connection is not.
 */
const fetched = import("./parts").then((all) => {
  parts = all;
  // What only few open comes after it.
  import("../form/CalendarPopup");
  return all;
});

/** The rest of the Desk, once it is there. */
export function useParts(): Parts | undefined {
  const known = useQuery({
    queryKey: ["parts"],
    queryFn: () => fetched,
    staleTime: Number.POSITIVE_INFINITY,
  });
  return parts ?? known.data;
}

/** Does something with the rest of the Desk: at once where it is there, else as soon as it is, in the order of the keys. */
export function withParts(doing: () => void) {
  if (parts) doing();
  else fetched.then(doing);
}
