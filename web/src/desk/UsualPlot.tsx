import type { Finding, DeskForm as Form } from "../api/client";
import { fieldsOf } from "../model/items";
import { shown } from "../model/shown";

/** Where an unusual value lies among those of its records: each of them a tick, the usual ones on a band, this one marked. */
export function UsualPlot({ form, finding }: { form: Form; finding: Finding }) {
  if (finding.cause?.is !== "not-usual" || finding.cause.unusual.is !== "amount") return null;
  const { plot, least, most, value, records } = finding.cause.unusual;
  const widget = fieldsOf(form).find(({ column }) => column === finding.field)?.widget;
  const highest = Math.max(...plot.ticks.map((tick) => tick.records));
  const x = (at: number) => 6 + at * 288;
  return (
    <span className="usual-plot">
      <svg viewBox="0 0 300 36" role="img" aria-label={`Where it lies among ${records} records`}>
        <rect
          className="band"
          x={x(plot.least) - 2}
          y="12"
          width={(plot.most - plot.least) * 288 + 4}
          height="20"
        />
        <line x1="0" x2="300" y1="32.5" y2="32.5" />
        {plot.ticks.map(({ at, records: many }) => (
          <line key={at} x1={x(at)} x2={x(at)} y1={32 - 8 - (10 * many) / highest} y2="32" />
        ))}
        <path className="this" d={`M${x(plot.at)} 32 V10 m-5 -8 h10 l-5 8 z`} />
      </svg>
      <span className="usual-ends">
        usual {shown(least, widget, form)} – {shown(most, widget, form)}
        <b>▼ {shown(value, widget, form)}</b>
      </span>
    </span>
  );
}
