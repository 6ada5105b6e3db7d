import { expect, it } from "vitest";
import { dayTyped } from "./days";

const NOW = new Date(2026, 10, 5);

it.each([
  ["2026-08-01", "2026-08-01"],
  ["8/1", "2026-08-01"],
  ["8/1/24", "2024-08-01"],
  ["1 Aug 2025", "2025-08-01"],
  ["1. august", "2026-08-01"],
  ["t", "2026-11-05"],
  ["2026/8/1", "2026-08-01"],
  ["13/1", undefined],
  ["30 Feb 2026", undefined],
  ["2026-02-29", undefined],
  ["1", undefined],
  ["x/y", undefined],
  ["1 xyz 2026", undefined],
])("reads %j as %j", (typed, day) => {
  expect(dayTyped(typed, "month-first", NOW)).toBe(day);
});

it("reads days first where the form does", () => {
  expect(dayTyped("8/1", "day-first", NOW)).toBe("2026-01-08");
  expect(dayTyped("13.1.", "day-first", NOW)).toBeUndefined();
  expect(dayTyped("13.1", "day-first", NOW)).toBe("2026-01-13");
  expect(dayTyped("2026-08-01", "day-first", NOW)).toBe("2026-08-01");
});
