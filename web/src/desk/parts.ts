/** What of the Desk nobody needs for the first key, in one piece. */
export { BatchDesk } from "../batch/BatchDesk";
export { FormLinesGrid } from "../batch/FormLinesGrid";
export { SpreadOffer } from "../batch/SpreadOffer";
export { Measure } from "../entry/measure";
export { FindFoot, FindHead } from "../find/FindHead";
export { QuickBox } from "../find/QuickBox";
export { ConflictView } from "../history/ConflictView";
export { HistoryView } from "../history/HistoryView";
export { OthersHere } from "../live/OthersHere";
export { AskLeaving, AskRemoval } from "./Dialogs";
export { KeysHelp } from "./KeysHelp";
export { Offer } from "./Offer";
export { OnTheWay } from "./OnTheWay";
export { Printed } from "./Printed";
export { Refused } from "./Refused";
export { RowsDrawer } from "./RowsDrawer";
export { Tray } from "./Tray";
export { Waiting } from "./Waiting";
