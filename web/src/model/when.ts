let zone: string | undefined;

/** From now on stamps are told in the zone of the installation, whatever the reader's is. */
export function keepZone(name: string) {
  try {
    new Intl.DateTimeFormat("en-GB", { timeZone: name });
    zone = name;
  } catch {
    // A browser that does not know the zone tells its own.
    zone = undefined;
  }
}

const TIME = { hour: "2-digit", minute: "2-digit" } as const;
const DATE = { day: "numeric", month: "short", year: "numeric" } as const;

const time = (at: Date, timeZone: string | undefined) =>
  at.toLocaleTimeString("en-GB", { ...TIME, timeZone });
const date = (at: Date, timeZone: string | undefined) =>
  at.toLocaleDateString("en-GB", { ...DATE, timeZone });

/** The zone's short name where a moment has another time there than where one reads it. */
function named(at: Date): string {
  const here = `${date(at, undefined)} ${time(at, undefined)}`;
  if (!zone || here === `${date(at, zone)} ${time(at, zone)}`) return "";
  const parts = new Intl.DateTimeFormat("en-GB", { timeZone: zone, timeZoneName: "short" }).formatToParts(at);
  return ` ${parts.find(({ type }) => type === "timeZoneName")?.value ?? zone}`;
}

/** The day that a moment is of, in the zone of the installation. */
export const dayOf = (at: Date) => date(at, zone);

/** A moment's time of day there. */
export const timeOf = (at: Date) => `${time(at, zone)}${named(at)}`;

/** Whether a stamp says which zone it is of. */
const ZONED = /(Z|[+-]\d\d:?\d\d)$/;

/**
 * A moment in the past, as people say it: today by its time, before by its date too. A stamp without a zone is of the installation's
 * and is told as it stands.
 */
export function when(stamp: string): string {
  if (!ZONED.test(stamp)) return inWords(new Date(`${stamp}Z`), "UTC", "");
  const at = new Date(stamp);
  return inWords(at, zone, named(at));
}

function inWords(at: Date, timeZone: string | undefined, name: string): string {
  const told = `${time(at, timeZone)}${name}`;
  return date(at, timeZone) === dayOf(new Date()) ? `today ${told}` : `${date(at, timeZone)} ${told}`;
}
