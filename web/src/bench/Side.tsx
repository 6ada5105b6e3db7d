import { useQuery } from "@tanstack/react-query";
import type { Table } from "../api/client";
import { tableQuery } from "../api/queries";
import { linesOf } from "../entry/sheet";
import { FraysList } from "./FraysList";
import { Outline } from "./Outline";
import type { Over } from "./over";
import { PublishView } from "./PublishView";
import { ofLines } from "./rules/ofLines";
import { RulesPane } from "./rules/RulesPane";
import type { BenchDoings } from "./useBench";
import { VersionsView } from "./VersionsView";

interface Props {
  bench: BenchDoings;
  table: Table;
  over: Over;
  show: (over: Over) => void;
}

/** The side at the left of the form: its fields, its rules, or what is to be looked through beside it for a while. */
export function Side({ bench, table, over, show }: Props) {
  const close = () => show(undefined);
  if (over === "publish" || over === "versions" || over === "frays") {
    const View = { publish: PublishView, versions: VersionsView, frays: FraysList }[over];
    return (
      <aside
        className="outline-pane"
        aria-label={{ publish: "Publish", versions: "Versions", frays: "Frays" }[over]}
        onKeyDown={(e) => {
          if (e.key === "Escape") close();
        }}
      >
        <View bench={bench} table={table} close={close} />
      </aside>
    );
  }
  return (
    <aside className="outline-pane" aria-label={bench.face === "rules" ? "Rules" : "Outline"}>
      <Faces bench={bench} />
      {bench.face === "rules" ? (
        <Rules bench={bench} table={table} />
      ) : (
        <Outline bench={bench} table={table} />
      )}
    </aside>
  );
}

function Faces({ bench }: { bench: BenchDoings }) {
  const counts = { fields: bench.ids.length, rules: bench.told.length };
  return (
    <div role="tablist" className="faces" aria-label="What the side shows">
      {(["fields", "rules"] as const).map((face) => (
        <button
          key={face}
          type="button"
          role="tab"
          title="F4 goes to the other one"
          aria-selected={bench.face === face}
          tabIndex={bench.face === face ? 0 : -1}
          onClick={() => bench.setFace(face)}
          onKeyDown={(e) => {
            if (e.key !== "ArrowLeft" && e.key !== "ArrowRight") return;
            e.preventDefault();
            bench.setFace(bench.face === "rules" ? "fields" : "rules");
          }}
        >
          {face === "fields" ? "Fields" : "Rules"} <small>{counts[face]}</small>
        </button>
      ))}
    </div>
  );
}

/** The rules of the form, or those of each line of lines on it. */
function Rules({ bench, table }: { bench: BenchDoings; table: Table }) {
  const lines = linesOf(bench.form);
  const item = lines.find(({ id }) => id === bench.scope);
  const of = useQuery({ ...tableQuery(item?.table ?? ""), enabled: item !== undefined }).data;
  return (
    <>
      {lines.length > 0 && (
        <div className="rules-of">
          <span aria-hidden="true">Rules of</span>
          <select
            aria-label="Rules of"
            className="entry small"
            value={item?.id ?? ""}
            onChange={(e) => {
              bench.setRule(undefined);
              bench.setScope(e.target.value || undefined);
            }}
          >
            <option value="">{bench.form.title}</option>
            {lines.map(({ id, label }) => (
              <option key={id} value={id}>
                each line of {label}
              </option>
            ))}
          </select>
        </div>
      )}
      {item ? (
        // Until their table is known there is nothing to type into, which would be lost, or become a rule of the form.
        of && <RulesPane key={item.id} bench={ofLines(bench, item)} table={of} />
      ) : (
        <RulesPane key="form" bench={bench} table={table} />
      )}
    </>
  );
}
