import { Link } from "react-router";
import { between, entered, number, perHundred, seconds, shareOf, type Work } from "./words";

/** How long each field takes, and how right it is. */
export function FieldsTable({ work, bench }: { work: Work; bench: string | undefined }) {
  const twice = work.whole.differed.of > 0;
  return (
    <section className="box panel" aria-labelledby="fields-table">
      <header>
        <h2 id="fields-table">Seconds in a field</h2>
        <span className="flex-1" />
        <span className="legend">median, and the slowest tenth</span>
      </header>
      <div className="scrolled">
        <table className="figures">
          <thead>
            <tr>
              <th scope="col">field</th>
              <th scope="col">median</th>
              <th scope="col">slowest</th>
              <th scope="col">changed later</th>
              {twice && <th scope="col">differed</th>}
              <th scope="col">gone back</th>
            </tr>
          </thead>
          <tbody>
            {work.fields.map((field) => (
              <tr key={field.column}>
                <th scope="row">
                  {bench ? (
                    <Link to={bench} state={{ column: field.column }}>
                      {field.label}
                    </Link>
                  ) : (
                    field.label
                  )}
                </th>
                <td>{seconds(field.median)}</td>
                <td>{seconds(field.slowest)}</td>
                <td>{shareOf(field.corrected)}</td>
                {twice && <Differed share={field.differed} />}
                <td>{number(field.back)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

interface Props {
  work: Work;
  desk: string;
  choose: (person: string) => void;
}

/** Who keyed how much, and how right. */
export function PeopleTable({ work, desk, choose }: Props) {
  return (
    <section className="box panel" aria-labelledby="people-table">
      <header>
        <h2 id="people-table">{work.everybody ? "People" : "Your own work"}</h2>
        <span className="flex-1" />
        <span className="legend">
          {work.everybody
            ? "only who sees and changes every record sees this"
            : "others see their own; who sees and changes every record sees all"}
        </span>
      </header>
      {work.everybody && (
        <div className="scrolled">
          <table className="figures">
            <thead>
              <tr>
                <th scope="col">who</th>
                <th scope="col">entries</th>
                <th scope="col">again</th>
                <th scope="col">an hour</th>
                <th scope="col">stops / 100</th>
                <th scope="col">differed</th>
              </tr>
            </thead>
            <tbody>
              {work.persons.map((person) => (
                <tr key={person.name}>
                  <th scope="row">
                    <button type="button" className="link" onClick={() => choose(person.name)}>
                      {person.title}
                    </button>
                  </th>
                  <td>
                    {person.entries > 0 ? (
                      <Link to={entered(desk, work, { person: person.name })}>{number(person.entries)}</Link>
                    ) : (
                      0
                    )}
                  </td>
                  <td>{number(person.twice)}</td>
                  <td>{person.anHour == null ? "–" : person.anHour.toFixed(0)}</td>
                  <td>{perHundred(person.stops + person.asks, person.entries + person.twice)}</td>
                  <Differed share={person.differed} />
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}

/** A share that differed, with the ends between which the true one lies in 95 of a hundred cases. */
function Differed({ share }: { share: Work["whole"]["differed"] }) {
  return (
    <td>
      {shareOf(share)}
      {share.of > 0 && <small>{between(share)}</small>}
    </td>
  );
}
