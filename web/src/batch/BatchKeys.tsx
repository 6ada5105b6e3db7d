import { Cover } from "../ui/Cover";
import { KeyList } from "../ui/KeyList";

const KEYS: [string, string][] = [
  ["Tab, Shift+Tab", "next cell, cell before"],
  ["Enter", "the next line"],
  ["↑, ↓", "the same cell in the line above, below"],
  ["Ctrl+Enter, Ctrl+S", "save all lines"],
  ["Alt+↑", "the cell as in the line above"],
  ["Alt+Shift+↑", "the whole line as the line above"],
  ["Alt+I", "a blank line in front of this one"],
  ["Ctrl+Delete", "take the line out"],
  ["Ctrl+V", "paste cells from anywhere; a first line of headings sorts them"],
  ["Alt+C", "copy all lines, to be pasted elsewhere"],
  ["Alt+Home", "to what is the same on every line"],
  ["Esc", "the cell as it was"],
  ["Alt+L", "one entry at a time, where the door lets you choose"],
];

/** Every key of the lines. */
export function BatchKeys({ close }: { close: () => void }) {
  return (
    <Cover name="All the keys" close={close}>
      <div className="grid gap-3 p-5">
        <h2>All the keys</h2>
        <KeyList pairs={KEYS} />
      </div>
      <div className="sticky bottom-0 border-t border-line bg-paper px-5 py-3">
        <button type="button" className="btn go" onClick={close}>
          Back to the lines <kbd>Esc</kbd>
        </button>
      </div>
    </Cover>
  );
}
