import type { ReactNode } from "react";
import { Link } from "react-router";
import { deskFinding } from "../find/address";
import { between, entered, number, seconds, shareOf, type Work } from "./words";

/** What is told first, each figure a way to what it speaks of. */
export function Cards({ work, desk, twice }: { work: Work; desk: string; twice: boolean }) {
  const { whole } = work;
  const each = (keys: number) => (whole.measured > 0 ? (keys / whole.measured).toFixed(0) : "–");
  return (
    <div className="cards">
      <Card figure={number(whole.entries)} to={entered(desk, work)}>
        {whole.entries === 1 ? "entry" : "entries"}, {number(whole.people)}{" "}
        {whole.people === 1 ? "person" : "people"}
        {whole.twice > 0 && `; ${number(whole.twice)} keyed again`}
      </Card>
      <Card figure={whole.median == null ? "–" : `${seconds(whole.median)} s`}>
        {whole.median == null
          ? "an entry: no time was measured"
          : `an entry, median; ${seconds(whole.slowest)} s and more the slowest tenth`}
      </Card>
      <Card figure={each(whole.keys)}>
        {whole.measured > 0
          ? `keys an entry; ${each(whole.least)} would do`
          : "keys an entry: none were counted"}
      </Card>
      <Card figure={shareOf(whole.hindered)}>stopped or asked before they were saved</Card>
      <Card figure={shareOf(whole.corrected)} to={entered(desk, work, { more: ["_changed_at:filled"] })}>
        corrected within a week
      </Card>
      {twice && (
        <Card figure={shareOf(whole.differed)} to={deskFinding(desk, ["_keyed:differing or settled"])}>
          of fields differed when keyed twice
          {whole.differed.of > 0 && ` (${between(whole.differed)})`}
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
