import { ArrowDownToLine, ArrowUpToLine, ChevronDown, ChevronUp, Plus } from "lucide-react";
import { useState } from "react";
import type { DeskForm as Form } from "../api/client";
import { grouped } from "../model/counted";
import { finding } from "../rows/ask";
import type { DeskDoings } from "../sitting/useDesk";

/** The way through the records in view, with the place where one is. */
export function Rail({ form, desk, adds }: { form: Form; desk: DeskDoings; adds: boolean }) {
  const { can, step, browse, total, find } = desk;
  const asking = find.asking;
  return (
    <nav className="rail" aria-label="Records">
      <button type="button" disabled={!can.first || asking} onClick={() => step("first")} title="Alt+Page Up">
        <ArrowUpToLine aria-hidden="true" /> First
      </button>
      <button
        type="button"
        disabled={!can.previous || asking}
        onClick={() => step("previous")}
        title="Page Up"
      >
        <ChevronUp aria-hidden="true" /> Previous
      </button>
      <Where form={form} desk={desk} />
      <button type="button" disabled={!can.next || asking} onClick={() => step("next")} title="Page Down">
        <ChevronDown aria-hidden="true" /> Next
      </button>
      <button type="button" disabled={!can.last || asking} onClick={() => step("last")} title="Alt+Page Down">
        <ArrowDownToLine aria-hidden="true" /> Last
      </button>
      <button type="button" className="new" disabled={asking || !adds} onClick={browse.fresh} title="Alt+N">
        <Plus aria-hidden="true" /> New
      </button>
      <span className="sr-only">{total ? `${total.count} in view` : ""}</span>
    </nav>
  );
}

/** The number of the record, into which another is typed to go there, and a bead that shows how far along it is. */
function Where({ form, desk }: { form: Form; desk: DeskDoings }) {
  const { browse, total, jump, sitting, find } = desk;
  const [typed, setTyped] = useState<string>();
  const { place, ask } = browse;
  const here = place ? (place.position?.toString() ?? `row ${place.record?.row}`) : "new";
  const count = total ? `${total.exact ? "" : "about "}${grouped(total.count, form)}` : "…";
  const along = !place ? 1 : ((place.position ?? 0) - 1) / Math.max(1, (total?.count ?? 1) - 1);
  return (
    <div className="where">
      <input
        aria-label="Position: type a number to go there"
        value={typed ?? here}
        readOnly={find.asking}
        onFocus={(e) => e.currentTarget.select()}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={() => setTyped(undefined)}
        onKeyDown={async (e) => {
          if (find.asking || (e.key !== "Enter" && e.key !== "Escape")) return;
          e.preventDefault();
          if (e.key === "Escape" || typed === undefined || (await jump(typed))) {
            setTyped(undefined);
            sitting.focusFirst();
          }
        }}
      />
      <small>
        of {count}
        {finding(ask) && <br />}
        {finding(ask) && (total?.count === 1 ? "match" : "matches")}
      </small>
      <div className="warp" aria-hidden="true">
        {(!place || place.position !== null) && <i style={{ top: `${Math.round(along * 84)}px` }} />}
      </div>
    </div>
  );
}
