import { type KeyboardEvent, useState } from "react";
import { Link, useNavigate } from "react-router";
import { Bar, BarChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { day, entered, number, type Work } from "./words";

/**
 * Entries a day, or by hour of the day: keyed once below, keyed a second time above. The records of a day are one press away: of
 * the bar that is pressed, or that the arrow keys go to.
 */
export function EntriesPlot({ work, desk }: { work: Work; desk: string }) {
  const [by, setBy] = useState<"day" | "hour">("day");
  const [chosen, setChosen] = useState<string>();
  const navigate = useNavigate();
  const weeks = work.days.length > MOST_DAYS;
  const unit = by === "hour" ? "by hour" : weeks ? "a week" : "a day";
  const spans: Span[] = weeks ? byWeek(work.days) : work.days.map((each) => ({ ...each, last: each.day }));
  const keyed = by === "day" ? spans.filter(({ once }) => once > 0) : [];
  const found = keyed.findIndex((each) => each.day === chosen);
  const at = found < 0 ? keyed.length - 1 : found;
  const shown = keyed[at];
  const records = ({ day: first, last }: Span) =>
    entered(desk, work, { days: first === last ? first : `${first} to ${last}` });
  const turn = (e: KeyboardEvent) => {
    const next = keyed[at + (e.key === "ArrowLeft" ? -1 : e.key === "ArrowRight" ? 1 : 0)];
    if (next) setChosen(next.day);
  };
  const press = (iso: string) => {
    const span = keyed.find((each) => each.day === iso);
    if (span) navigate(records(span));
  };
  const bars =
    by === "day"
      ? spans.map(({ day: iso, once, twice }) => ({ name: day(iso), day: iso, once, twice }))
      : work.hours.map(({ hour, once, twice }) => ({
          name: `${String(hour).padStart(2, "0")}:00`,
          day: "",
          once,
          twice,
        }));
  return (
    <section className="box panel" aria-labelledby="entries-plot">
      <header>
        <h2 id="entries-plot">Entries {unit}</h2>
        <fieldset className="by">
          <legend className="sr-only">By day or by hour</legend>
          {(["day", "hour"] as const).map((each) => (
            <label key={each}>
              <input type="radio" name="by" checked={by === each} onChange={() => setBy(each)} /> by{" "}
              {each === "day" && weeks ? "week" : each}
            </label>
          ))}
        </fieldset>
        {shown && (
          <Link
            className="link"
            to={records(shown)}
            onKeyDown={turn}
            title={`${weeks ? `to ${day(shown.last)}; ` : ""}← → another`}
          >
            {day(shown.day)}: {number(shown.once)}
          </Link>
        )}
        <span className="flex-1" />
        <span className="legend">
          <i className="swatch once" /> once <i className="swatch twice" /> again
        </span>
      </header>
      <div className="plot" aria-hidden="true">
        <ResponsiveContainer width="100%" height="100%">
          <BarChart
            accessibilityLayer={false}
            data={bars}
            margin={{ top: 6, right: 4, bottom: 0, left: -14 }}
            barCategoryGap="14%"
          >
            <CartesianGrid vertical={false} stroke="var(--line)" />
            <XAxis dataKey="name" tickLine={false} stroke="var(--line-strong)" tick={TICK} minTickGap={28} />
            <YAxis allowDecimals={false} tickLine={false} axisLine={false} tick={TICK} width={52} />
            <Tooltip
              cursor={{ fill: "var(--indigo-wash)", opacity: 0.6 }}
              contentStyle={{ background: "var(--paper)", border: "1px solid var(--line)", borderRadius: 6 }}
              labelStyle={{ color: "var(--ink)" }}
              isAnimationActive={false}
            />
            <Bar
              name="keyed again"
              dataKey="twice"
              stackId="all"
              fill="var(--work-twice)"
              isAnimationActive={false}
              onClick={({ payload }) => press(payload.day)}
            />
            <Bar
              name="keyed once"
              dataKey="once"
              stackId="all"
              fill="var(--work-once)"
              isAnimationActive={false}
              onClick={({ payload }) => press(payload.day)}
            />
          </BarChart>
        </ResponsiveContainer>
      </div>
      <table className="sr-only">
        <caption>Entries {unit}</caption>
        <thead>
          <tr>
            <th scope="col">{by}</th>
            <th scope="col">keyed once</th>
            <th scope="col">keyed again</th>
          </tr>
        </thead>
        <tbody>
          {bars.map(({ name, once, twice }) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              <td>{number(once)}</td>
              <td>{number(twice)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** More days than this are shown by week. */
const MOST_DAYS = 92;

type Span = Work["days"][number] & { last: string };

/** The same by weeks of seven days. */
function byWeek(days: Work["days"]): Span[] {
  const weeks: Span[] = [];
  days.forEach(({ day: iso, once, twice }, at) => {
    const week = weeks.at(-1);
    if (at % 7 === 0 || !week) weeks.push({ day: iso, last: iso, once, twice });
    else
      weeks[weeks.length - 1] = {
        day: week.day,
        last: iso,
        once: week.once + once,
        twice: week.twice + twice,
      };
  });
  return weeks;
}

const TICK = { fill: "var(--ink-soft)", fontSize: 12 };
