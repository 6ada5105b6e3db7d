import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { dayOf, keepZone, timeOf, when } from "./when";

beforeEach(() => {
  vi.useFakeTimers({ now: new Date("2026-08-01T22:30:00Z") });
});
afterEach(() => {
  vi.useRealTimers();
  keepZone(Intl.DateTimeFormat().resolvedOptions().timeZone);
});

it("tells a stamp in the zone of the installation, and names that where it is not the reader's", () => {
  const own = Intl.DateTimeFormat().resolvedOptions().timeZone;
  keepZone(own);
  expect(when("2026-07-01T09:30:00Z")).not.toMatch(/GMT|UTC/);
  // Kiritimati has no neighbour that is as far ahead.
  keepZone("Pacific/Kiritimati");
  expect(when("2026-08-01T21:30:00Z")).toBe("today 11:30 GMT+14");
  expect(when("2026-07-31T21:30:00+00:00")).toBe("1 Aug 2026 11:30 GMT+14");
  expect(timeOf(new Date("2026-08-01T21:30:00Z"))).toBe("11:30 GMT+14");
  expect(dayOf(new Date("2026-08-01T21:30:00Z"))).toBe("2 Aug 2026");
});

it("tells a stamp without a zone as it stands", () => {
  keepZone("Pacific/Kiritimati");
  expect(when("2026-08-02T09:47:00")).toBe("today 09:47");
  expect(when("2026-08-01T09:47:00.123")).toBe("1 Aug 2026 09:47");
});

it("keeps to the reader's own where the browser does not know the zone", () => {
  keepZone("Nowhere/At all");
  expect(when("2026-07-01T09:30:00Z")).not.toMatch(/GMT/);
});
