import { expect, it } from "vitest";
import { browser } from "../testing/given";
import { draw, drawn, fitting } from "./widths";

it("makes a column as wide as the longest value, and no wider than is good to read", () => {
  expect(fitting("pH", ["7.4"])).toBe(54);
  expect(fitting("Taken on", [])).toBeGreaterThan(fitting("On", []));
  expect(fitting("Note", ["a".repeat(30)])).toBe(285);
  expect(fitting("Note", ["a".repeat(3_000)])).toBe(340);
});

it("keeps a width that was drawn, for its table, until it is let go", () => {
  browser();
  draw("samples", "ph", 200.4);
  draw("samples", "note", 5_000);
  expect(drawn("samples")).toEqual({ ph: 200, note: 1_200 });
  expect(drawn("sites")).toEqual({});
  draw("samples", "ph", undefined);
  expect(drawn("samples")).toEqual({ note: 1_200 });
});
