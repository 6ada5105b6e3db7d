import type { ReactNode } from "react";
import { Link } from "react-router";
import { between, number, seconds, shareOf, type Work } from "./words";

/** What is told first, each figure a way to what it speaks of. */
export function Cards({ work, desk, twice }: { work: Work; desk: string; twice: boolean }) {
  const { whole } = work;
  const keyed = whole.entries + whole.twice;
  return (
    <div className="cards">
      <Card figure={number(whole.entries)} to={desk}>
        {whole.entries === 1 ? "entry" : "entries"}, {number(whole.people)}{" "}
        {whole.people === 1 ? "person" : "people"}
        {whole.twice > 0 && `; ${number(whole.twice)} keyed again`}
      </Card>
      <Card figure={whole.median == null ? "–" : `${seconds(whole.median)} s`}>
        {whole.median == null
          ? "an entry: no time was measured"
          : `an entry, median; ${seconds(whole.slowest)} s and more the slowest tenth`}
      </Card>
      <Card figure={shareOf(whole.hindered)}>stopped or asked before they were saved</Card>
      <Card figure={shareOf(whole.corrected)}>corrected within a week</Card>
      {twice ? (
        <Card figure={shareOf(whole.differed)} to={`${desk}?find=_keyed:differing`}>
          of fields differed when keyed twice
          {whole.differed.of > 0 && ` (${between(whole.differed)})`}
        </Card>
      ) : (
        <Card figure={keyed > 0 && whole.keys > 0 ? (whole.keys / keyed).toFixed(0) : "–"}>
          keys an entry; {whole.keys > 0 ? (whole.least / keyed).toFixed(0) : "–"} would do
        </Card>
      )}
    </div>
  );
}

function Card({ figure, to, children }: { figure: string; to?: string; children: ReactNode }) {
  const inner = (
    <>
      <b>{figure}</b>
      <span>{children}</span>
    </>
  );
  return to ? (
    <Link className="box card" to={to}>
      {inner}
    </Link>
  ) : (
    <div className="box card">{inner}</div>
  );
}
