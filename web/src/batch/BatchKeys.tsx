import { Cover } from "../ui/Cover";

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
  ["Alt+L", "one entry at a time, where the door lets one choose"],
];

/** Every key of the lines. */
export function BatchKeys({ close }: { close: () => void }) {
  return (
    <Cover name="All the keys" close={close}>
      <div className="p-5">
        <h2 className="mb-3">All the keys</h2>
        <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-2">
          {KEYS.map(([key, what]) => (
            <div key={key} className="contents">
              <dt>
                <kbd>{key}</kbd>
              </dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </div>
    </Cover>
  );
}
