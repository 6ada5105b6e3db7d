import type { Finding } from "../api/client";
import { shown, type Way } from "../model/shown";

interface Props {
  finding: Finding;
  /** What its field shows values as: its widget or its column's type. */
  type?: string;
  way?: Way;
  /** Where the figures are told beside it. */
  bare?: boolean;
}

/** Where an unusual value lies among those of its records: each of them a tick, the usual ones on a band, this one marked. */
export function UsualPlot({ finding, type, way, bare }: Props) {
  if (finding.cause?.is !== "not-usual" || finding.cause.unusual.is !== "amount") return null;
  const { plot, least, most, value, records } = finding.cause.unusual;
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
      {!bare && (
        <span className="usual-ends">
          usual {shown(least, type, way)} – {shown(most, type, way)}
          <b>▼ {shown(value, type, way)}</b>
        </span>
      )}
    </span>
  );
}
