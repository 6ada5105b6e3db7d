import { DndContext, type DragEndEvent, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import { useEffect, useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import type { Table } from "../api/client";
import type { Revised } from "../api/queries";
import { fieldsOf } from "../model/items";
import { BenchTop } from "./BenchTop";
import { ColumnEditor } from "./ColumnEditor";
import { change, moveTo } from "./edits";
import { FormSettings } from "./FormSettings";
import type { Over } from "./over";
import { add, keyOf, type RuleOf, sameCheck } from "./rules/keys";
import { Rehearsal } from "./rules/Rehearsal";
import { Side } from "./Side";
import { useBench } from "./useBench";
import { useBenchKeys } from "./useBenchKeys";
import { Work } from "./Work";

/** A press becomes a drag after so many pixels. Made once, so that what can be dragged is not drawn anew with each change. */
const DRAG = { activationConstraint: { distance: 5 } };

/** A form on the Bench: its outline, the form itself, alive, and the rows it writes to, with the threads between them. */
export function BenchOf({ start, table }: { start: Revised; table: Table }) {
  const bench = useBench(start, table);
  const [over, setOver] = useState<Over>();
  const sensors = useSensors(useSensor(PointerSensor, DRAG));
  useBenchKeys(bench, over === "rehearsal" || over === "settings" || typeof over === "object", () =>
    setOver("rehearsal"),
  );
  const close = () => setOver(undefined);
  const asked = useLocation().state as { column?: string; rule?: string; declare?: RuleOf<"checks"> } | null;
  const navigate = useNavigate();
  // Whatever leads here may mean a field or a rule, or bring a rule along.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, as one comes
  useEffect(() => {
    const item = fieldsOf(bench.form).find(({ column }) => column === asked?.column);
    if (asked?.rule) mend({ rule: `check ${asked.rule}` });
    else if (asked?.declare) {
      const same = sameCheck(bench.form, asked.declare);
      if (!same) bench.edit(add(asked.declare));
      mend({ rule: same ?? keyOf(bench.latest(), asked.declare) });
      // Who comes again does not make it again.
      navigate(".", { replace: true });
    } else if (item) mend({ item: item.id });
  }, []);

  const dropped = ({ active, over: target, activatorEvent, delta }: DragEndEvent) => {
    if (!target) return;
    const item = active.data.current?.item as string | undefined;
    const thread = active.data.current?.thread as string | undefined;
    const column = target.data.current?.column as string | undefined;
    const other = target.data.current?.item as string | undefined;
    if (thread && column) bench.edit(change([thread], { column }));
    else if (item && other) {
      const box = target.rect;
      const x = (activatorEvent as PointerEvent).clientX + delta.x;
      bench.edit(
        moveTo(bench.selected.includes(item) ? bench.selected : [item], other, x > box.left + box.width / 2),
      );
    }
  };

  const mend = (place: { rule: string } | { item: string }) => {
    if ("rule" in place) {
      bench.setFace("rules");
      bench.setScope(undefined);
      bench.setRule(place.rule);
      close();
    } else {
      bench.setFace("fields");
      bench.select(place.item);
      bench.setOpen(true);
      close();
      setTimeout(() => document.getElementById(`line-${place.item}`)?.focus());
    }
  };

  if (over === "rehearsal") {
    return (
      <DndContext sensors={sensors}>
        <Rehearsal bench={bench} table={table} close={close} mend={mend} />
      </DndContext>
    );
  }
  return (
    <DndContext sensors={sensors} onDragEnd={dropped}>
      <p className="bench-narrow">
        The Bench wants a wider screen: 1,000 points or more. Its form can be used on this one,{" "}
        <Link to={`/d/${bench.form.id}`}>at the Desk</Link>.
      </p>
      <main className="bench">
        <BenchTop bench={bench} table={table} show={setOver} />
        <Side bench={bench} table={table} over={over} show={setOver} />
        <Work bench={bench} table={table} show={setOver} />
        {over === "settings" && <FormSettings bench={bench} table={table} close={close} />}
        {typeof over === "object" && "column" in over && (
          <ColumnEditor table={table} column={over.column} close={close} changed={bench.remade} />
        )}
      </main>
    </DndContext>
  );
}
