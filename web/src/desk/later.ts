import { useQuery } from "@tanstack/react-query";
import { type RefObject, useEffect } from "react";
import { queryKeyOf } from "../api/keys";

type Parts = typeof import("./parts");

let parts: Parts | undefined;

/**
 * The rest of the Desk, which is fetched as soon as its first script runs, beside the records: so it is there before one asks for
 * it, and when the connection is not.
 */
const fetched = import("./parts").then((all) => {
  parts = all;
  // What only few open comes after it.
  import("../ui/CalendarPopup");
  return all;
});

/** The rest of the Desk, once it is there. */
export function useParts(): Parts | undefined {
  const known = useQuery({
    queryKey: queryKeyOf("parts"),
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

/** Cells that are pasted before the rest of the Desk is there wait for it, as pasted. */
export function useEarlyPaste(frame: RefObject<HTMLElement | null>) {
  useEffect(() => {
    const place = frame.current;
    const hold = (e: ClipboardEvent) => {
      const text = e.clipboardData?.getData("text/plain") ?? "";
      if (parts || !e.clipboardData || !text.includes("\t")) return;
      e.preventDefault();
      e.stopPropagation();
      const clipboardData = new DataTransfer();
      for (const type of e.clipboardData.types) clipboardData.setData(type, e.clipboardData.getData(type));
      const again = new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true });
      const { target } = e;
      // What listens for it is there once it is drawn.
      fetched.then(() =>
        setTimeout(() => target?.dispatchEvent(again) && document.execCommand("insertText", false, text)),
      );
    };
    place?.addEventListener("paste", hold, true);
    return () => place?.removeEventListener("paste", hold, true);
  }, [frame]);
}
