import type { Schemas } from "../api/client";
import { deskFinding, just } from "../find/address";

/** Figures of some days, as they come. */
export type Work = Schemas["WorkJson"];
type Share = Schemas["ShareJson"];

const count = new Intl.NumberFormat("en");
export const number = (value: number): string => count.format(value);

/** A share in a hundred, with as many decimals as tell something. */
export const percent = (share: number): string => `${(share * 100).toFixed(share < 0.1 ? 2 : 1)} %`;

export const shareOf = ({ times, of }: Share): string => (of === 0 ? "–" : percent(times / of));

/** The ends between which the true share lies in 95 of a hundred such cases. */
export const between = ({ low, high }: Share): string =>
  `${(low * 100).toFixed(2)} to ${(high * 100).toFixed(2)}`;

export const seconds = (value: number | null | undefined): string =>
  value === null || value === undefined ? "–" : value < 100 ? value.toFixed(1) : value.toFixed(0);

export const perHundred = (times: number, of: number): string =>
  of === 0 ? "–" : ((times / of) * 100).toFixed(1);

const DAY = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short" });
export const day = (iso: string): string => DAY.format(new Date(`${iso}T12:00:00`));

/** Where the records are that were entered in those days by whoever is told of, or by that person; besides, what matches more. */
export function entered(
  desk: string,
  work: Work,
  { days = `${work.from} to ${work.to}`, person = work.person, more = [] as string[] } = {},
) {
  const by = person ? [`_entered_by:${just(person)}`] : [];
  return deskFinding(desk, [`_entered_at:${days}`, ...by, ...more]);
}
