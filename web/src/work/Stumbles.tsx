import { Link } from "react-router";
import { Bar, BarChart, ResponsiveContainer, XAxis, YAxis } from "recharts";
import { counted } from "../model/counted";
import { perHundred, type Work } from "./words";

const MOST = 6;
const LINE = 34;

/** The fields that stop and ask most, and the rules that do. */
export function Stumbles({ work, bench }: { work: Work; bench: string | undefined }) {
  const of = Math.max(1, work.whole.entries + work.whole.twice);
  const fields = work.fields
    .map(({ column, label, stops, asks }) => ({
      column,
      label,
      stops: (stops / of) * 100,
      asks: (asks / of) * 100,
      all: stops + asks,
    }))
    .filter(({ all }) => all > 0)
    .sort((one, other) => other.all - one.all)
    .slice(0, MOST);
  const asked = work.rules.filter(({ asks, stops }) => asks + stops > 0);
  return (
    <section className="box panel" aria-labelledby="stumbles">
      <header>
        <h2 id="stumbles">Where keyers stumble</h2>
        <span className="flex-1" />
        <span className="legend">
          <i className="swatch stops" /> stops <i className="swatch asks" /> asks, per 100 entries
        </span>
      </header>
      {fields.length === 0 && <p className="text-soft">Nothing stopped or asked.</p>}
      <div className="bars">
        <table>
          <caption className="sr-only">Stops and asks per 100 entries, by field</caption>
          <thead className="sr-only">
            <tr>
              <th scope="col">Field</th>
              <th scope="col">Stops</th>
              <th scope="col">Asks</th>
            </tr>
          </thead>
          <tbody>
            {fields.map(({ column, label, stops, asks }) => (
              <tr key={column}>
                <th scope="row">
                  {bench ? (
                    <Link to={bench} state={{ column }}>
                      {label}
                    </Link>
                  ) : (
                    label
                  )}
                </th>
                <td className="sr-only">{stops.toFixed(1)}</td>
                <td className="sr-only">{asks.toFixed(1)}</td>
                <td className="total">{(stops + asks).toFixed(1)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <div className="plot" aria-hidden="true" style={{ height: fields.length * LINE }}>
          <ResponsiveContainer width="100%" height="100%">
            <BarChart
              accessibilityLayer={false}
              layout="vertical"
              data={fields}
              margin={{ top: 0, right: 0, bottom: 0, left: 0 }}
              barSize={12}
            >
              <XAxis type="number" hide />
              <YAxis type="category" dataKey="label" hide />
              <Bar dataKey="stops" stackId="all" fill="var(--work-stops)" isAnimationActive={false} />
              <Bar dataKey="asks" stackId="all" fill="var(--work-asks)" isAnimationActive={false} />
            </BarChart>
          </ResponsiveContainer>
        </div>
      </div>
      {asked.length > 0 && (
        <ul className="rules-asked">
          {asked.map(({ id, words, asks, stops, despite }) => (
            <li key={id}>
              {bench ? (
                <Link to={bench} state={{ rule: id }}>
                  {words}
                </Link>
              ) : (
                words
              )}{" "}
              {asks > 0
                ? `(asked ${counted(asks, "time")}, ${perHundred(despite, asks)} % of them answered save all the same)`
                : `(stopped ${counted(stops, "time")})`}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** What the figures suggest, each with the way there. */
export function Suggested({ work, bench }: { work: Work; bench: string | undefined }) {
  if (work.suggestions.length === 0) return null;
  return (
    <section className="box panel wide" aria-labelledby="suggested">
      <header>
        <h2 id="suggested">What the figures suggest</h2>
      </header>
      <ul className="suggestions">
        {work.suggestions.map(({ kind, about, sentence }) => (
          <li key={kind + about}>
            {sentence}{" "}
            {bench && (
              <Link to={bench} state={kind === "waved-through" ? { rule: about } : { column: about }}>
                {kind === "waved-through" ? "Look at that check" : "Look at that field"}
              </Link>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
