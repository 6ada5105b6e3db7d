import { Cover } from "../ui/Cover";
import { KeyList } from "../ui/KeyList";

const KEYS: [string, string][] = [
  ["Tab, Shift+Tab", "next field, field before"],
  ["Enter", "save; on a form that moves on, the next field, and save from the last"],
  ["Ctrl+Enter, Ctrl+S", "save"],
  ["Shift+Enter", "a new line in a tall text field"],
  ["Esc", "put the field back; again, clear the entry, which waits in the tray; again, leave Find"],
  ["Alt+↑, Shift+Alt+↑", "this field as in the entry before; all that are empty"],
  ["Ctrl+Z", "undo: typing in the field; then bring back what was cleared; then take the last save back"],
  ["Ctrl+Y", "redo: typing; then put back what was taken back last"],
  ["Page Down, Page Up", "next record, record before; next after the last is a new one"],
  ["Alt+Page Up, Alt+Page Down", "first record, last record"],
  ["Alt+N", "a new entry"],
  ["Alt+C", "a copy of the record in the form as a new entry"],
  ["Alt+J", "go to a field by the letters of its label"],
  ["Alt+1 to 5, Alt+0", "where it is nearly the same as stored records: open one; say that it is a new one"],
  ["Alt+L", "many lines at once, where the door lets you choose"],
  ["Ctrl+F", "find; in Find, bring the last find back"],
  ["F3, Shift+F3", "next match, match before"],
  ["Ctrl+Shift+F", "find in any field"],
  ["Alt+Y, Alt+Z", "where something is asked: save it so, or yes; no. Else of the oldest in the tray"],
  ["Alt+Shift+Y", "save all in the tray so that ask the same"],
  [
    "Alt+B",
    "back to what was not saved: in the form, else the oldest in the tray, else what was typed before",
  ],
  ["← and →", "in the rows: to a cell, which Enter corrects in place"],
  ["Alt+H", "the history of the record"],
  ["Alt+O", "at a link: open its record, or make a new one to link to"],
  ["Alt+Backspace", "back to where the link was followed from"],
  ["Alt+Delete", "remove the record, after asking"],
  ["Alt+↓", "open the list or the calendar"],
  ["F8", "show the rows; again, go into them; again, hide them"],
  ["in the rows", "↑ ↓ to move, Shift to select, Space to select one, Enter to open, Delete to remove"],
  ["Shift+Alt+←, →", "in the rows: the column narrower, wider"],
  ["Ctrl+K", "go to any form, table or action"],
  ["F1", "these keys"],
];

const HELPS: [string, string][] = [
  ["t, +3, -1, mon", "today, in three days, yesterday, the latest Monday"],
  ["8/1", "a date of this year, in the form's order of day and month"],
  ["9, 930, 9.30, 9pm", "times of day"],
  ["y, n", "yes, no"],
  ["> 70, 1 to 3, wen*", "in Find: above 70, from 1 to 3, begins with wen"],
];

export function KeysHelp({ close }: { close: () => void }) {
  return (
    <Cover name="All the keys" close={close} wide>
      <div className="grid gap-x-10 gap-y-4 p-5 pb-2 md:grid-cols-[3fr_2fr]">
        <section>
          <h2 className="mb-2">All the keys</h2>
          <KeyList pairs={KEYS} />
        </section>
        <section>
          <h2 className="mb-2">Short ways to type</h2>
          <KeyList pairs={HELPS} />
        </section>
      </div>
      <div className="sticky bottom-0 border-t border-line bg-paper px-5 py-3">
        <button type="button" className="btn go" onClick={close}>
          Back to the entry <kbd>Esc</kbd>
        </button>
      </div>
    </Cover>
  );
}
