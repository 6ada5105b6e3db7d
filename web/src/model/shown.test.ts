import { expect, it } from "vitest";
import { counted } from "./counted";
import { shown, type Way } from "./shown";

const DAY_FIRST: Way = { dayOrder: "day-first", decimalSign: "comma" };

it("shows a stored value as it would be read", () => {
  expect([true, false, null, undefined, 0, 7.4].map((value) => shown(value))).toEqual([
    "yes",
    "no",
    "",
    "",
    "0",
    "7.4",
  ]);
  expect(shown("2026-08-01T09:30:00", "datetime")).toBe("2026-08-01 09:30");
  expect(shown("2026-08-01T09:30:00", "datetime", DAY_FIRST)).toBe("1/8/2026 09:30");
  expect(shown("2026-08-01", "date", { ...DAY_FIRST, dayOrder: "month-first" })).toBe("8/1/2026");
  expect(shown("2026-08-01", "date", { ...DAY_FIRST, dayOrder: "year-first" })).toBe("2026-08-01");
  expect(shown("2026-08-01", "text", DAY_FIRST)).toBe("2026-08-01");
  expect([shown("7.4", "decimal", DAY_FIRST), shown("7.4", "number")]).toEqual(["7,4", "7.4"]);
  expect(shown("09:30:07", "time")).toBe("09:30:07");
  expect(shown("12:00:00", "text")).toBe("12:00:00");
  expect(shown({ id: 1, row: 2, shown: "QB-03" })).toBe("QB-03");
});

it("groups counts as the form does", () => {
  expect(counted(1, "row")).toBe("1 row");
  expect(counted(12_345, "row")).toBe("12,345 rows");
  expect(counted(12_345, "match", "matches", DAY_FIRST)).toBe("12.345 matches");
});
