/** What of the Desk nobody needs for the first key, in one piece. */
export { BatchDesk } from "../batch/BatchDesk";
export { FormLinesGrid } from "../batch/FormLinesGrid";
export { SpreadOffer } from "../batch/SpreadOffer";
export { Measure } from "../entry/measure";
export { FindFoot, FindHead } from "../find/FindHead";
export { ConflictView } from "../history/ConflictView";
export { HistoryView } from "../history/HistoryView";
export { Asks } from "./Asks";
export { AskLeaving, AskRemoval } from "./Dialogs";
export { KeysHelp } from "./KeysHelp";
export { RowsDrawer } from "./RowsDrawer";
