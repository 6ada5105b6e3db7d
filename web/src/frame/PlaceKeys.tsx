import { useLocation } from "react-router";
import { Cover } from "../ui/Cover";
import { KeyList } from "../ui/KeyList";

type Pairs = [string, string][];

const EVERYWHERE: Pairs = [
  ["Ctrl+K", "go to any door, form, table or action"],
  ["Tab, Shift+Tab", "the next thing, the one before"],
  ["Enter, Space", "press what the keys are on"],
  ["Esc", "close what lies over the page"],
  ["F1", "these keys"],
];

const BENCH: Pairs = [
  ["↑, ↓, Home, End", "in the outline: from line to line; Shift selects more, Ctrl+A all"],
  ["Enter", "a line below, to type the next field into"],
  ["Space", "the settings of the line, or of all that are selected"],
  ["F2", "change the label, or a rule's sentence, in its place"],
  ["Alt+↑, Alt+↓", "move it in the tab order"],
  ["Shift+Alt+←, Shift+Alt+→", "narrower, wider"],
  ["Delete", "off the form; its column stays"],
  ["Ctrl+C, Ctrl+X, Ctrl+V", "copy, cut, paste"],
  ["Ctrl+Z, Ctrl+Y", "undo, redo"],
  ["F4", "fields, rules"],
  ["F9", "rehearse the entry in the form"],
  ["Alt+Page Up, Alt+Page Down", "the rows below the form taller, lower"],
];

const SECOND: Pairs = [
  ["Tab, Shift+Tab", "next field, field before"],
  ["Enter", "end this paper, or the next field, as the form is set"],
  ["Ctrl+Enter", "end this paper"],
  ["Alt+N", "another paper, by what it is recognised by"],
  ["Alt+B", "back to a paper that was put aside"],
  ["1, 2", "where both keyings are shown: which holds"],
  ["Esc", "clear the field, then put the paper back"],
];

const SETTLING: Pairs = [
  ["1, 2", "which keying holds in the field"],
  ["Tab", "next field, or the box to type what neither says"],
  ["Enter", "settle this paper"],
  ["Alt+L", "leave it for later"],
];

const PLACES: [RegExp, string, Pairs][] = [
  [/^\/bench\//, "the Bench", BENCH],
  [/\/twice$/, "the second keying", SECOND],
  [/\/settle$/, "settling", SETTLING],
];

/** The keys of the place that one is in, where that shows none of its own. */
export function PlaceKeys({ close }: { close: () => void }) {
  const at = useLocation().pathname;
  const place = PLACES.find(([path]) => path.test(at));
  return (
    <Cover name="All the keys" close={close} wide={!!place}>
      <div className={`grid gap-x-10 gap-y-4 p-5 ${place ? "md:grid-cols-[3fr_2fr]" : ""}`}>
        {place && (
          <section>
            <h2 className="mb-2">On {place[1]}</h2>
            <KeyList pairs={place[2]} />
          </section>
        )}
        <section>
          <h2 className="mb-2">{place ? "Everywhere" : "All the keys"}</h2>
          <KeyList pairs={EVERYWHERE} />
        </section>
        <span>
          <button type="button" className="btn go" onClick={close}>
            Close <kbd>Esc</kbd>
          </button>
        </span>
      </div>
    </Cover>
  );
}
