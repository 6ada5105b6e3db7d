import { useRef } from "react";
import type { BenchDoings } from "./useBench";

/** What would bite or trouble a keyer, each with its mend where one press can. */
export function FraysList({ bench, close }: { bench: BenchDoings; close: () => void }) {
  const frays = bench.state?.frays ?? [];
  const done = useRef<HTMLButtonElement>(null);
  return (
    <div className="beside-pane">
      <h2>{frays.length === 0 ? "No frays" : frays.length === 1 ? "1 fray" : `${frays.length} frays`}</h2>
      <ul className="frays">
        {frays.map((fray) => (
          <li key={fray.id} className={fray.bites ? "bites" : ""}>
            <p>{fray.sentence}</p>
            <span className="flex gap-2">
              {fray.mend && (
                <button
                  type="button"
                  className="btn small"
                  onClick={() => {
                    // The button goes with its fray; the keys stay in the list.
                    done.current?.focus();
                    bench.mend(fray.id);
                  }}
                >
                  {fray.mend}
                </button>
              )}
              {fray.item && (
                <button
                  type="button"
                  className="btn quiet small"
                  onClick={() => {
                    bench.setFace("fields");
                    bench.select(fray.item as string);
                    bench.setOpen(true);
                    close();
                  }}
                >
                  Show it
                </button>
              )}
            </span>
          </li>
        ))}
      </ul>
      {/* biome-ignore lint/a11y/noAutofocus: Esc and Tab begin here */}
      <button ref={done} type="button" className="btn justify-self-start" autoFocus onClick={close}>
        Close <kbd>Esc</kbd>
      </button>
    </div>
  );
}
