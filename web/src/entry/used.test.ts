import { beforeEach, expect, it } from "vitest";
import { browser } from "../testing/given";
import { lastUsed, used, usedInWords } from "./used";

beforeEach(() => {
  browser();
});

const at = (day: string, time = "09:41") => new Date(`${day}T${time}:00`).getTime();

it("counts what was saved at a door on the day it was last used, and begins anew on the next", () => {
  used("samples", 0, at("2026-08-03"));
  used("samples", 1, at("2026-08-03", "10:00"));
  used("samples", 1, at("2026-08-03", "23:59"));
  expect(lastUsed("samples")).toEqual({ at: at("2026-08-03", "23:59"), saved: 2 });
  used("samples", 1, at("2026-08-04", "00:01"));
  expect(lastUsed("samples")?.saved).toBe(1);
  expect(lastUsed("sites")).toBeUndefined();
});

it("says when that was as people do", () => {
  const now = at("2026-08-05", "12:00");
  const said = (day: string, saved = 14) => usedInWords({ at: at(day), saved }, now);
  expect(said("2026-08-05")).toBe("today 09:41 · 14 saved");
  expect(said("2026-08-05", 0)).toBe("today 09:41");
  expect(said("2026-08-04")).toBe("yesterday");
  expect(said("2026-07-31")).toBe("Friday");
  expect(said("2026-07-29")).toBe("29 Jul 2026");
});
