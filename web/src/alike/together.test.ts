import { describe, expect, it } from "vitest";
import { record } from "../testing/given";
import { apart, from, fullest, rowsOf, taken } from "./together";
import { percent } from "./words";

const COLUMNS = ["name", "phone", "team"];
const ONE = record(5, { name: "Tilda Hollin", phone: null, team: "A" });
const OTHER = record(54, { name: "Tilda Hollyn", phone: "01632", team: "A" });
const THIRD = record(60, { name: "T. Hollin", phone: null, team: null });

describe("records side by side", () => {
  it("begin with the one that says most, and of those with the lowest row", () => {
    expect(fullest([ONE, OTHER, THIRD])).toBe(1);
    expect(fullest([OTHER, ONE])).toBe(0);
    expect(fullest([record(9, { name: "a" }), record(3, { name: "b" })])).toBe(1);
  });

  it("lose nothing that only one of them says", () => {
    expect(taken(COLUMNS, [ONE, OTHER, THIRD], 2)).toEqual({ name: 2, phone: 1, team: 0 });
    const nobody = [record(1, { name: null }), record(2, { name: null })];
    expect(taken(["name"], nobody, 1)).toEqual({ name: 1 });
  });

  it("are lit where they are not the same", () => {
    expect([...apart(COLUMNS, [ONE, OTHER])]).toEqual(["name", "phone"]);
    expect([...apart(COLUMNS, [ONE, OTHER, THIRD])]).toEqual(COLUMNS);
  });

  it("are sent with what is taken from those that go", () => {
    expect(from({ name: 0, phone: 1, team: 0 }, [ONE, OTHER], 0)).toEqual({ phone: 54 });
    expect(from({ name: 0, phone: 1 }, [ONE, OTHER], 1)).toEqual({ name: 5 });
  });

  it("are listed by their rows", () => {
    expect([[ONE], [ONE, OTHER], [ONE, OTHER, THIRD]].map(rowsOf)).toEqual(["5", "5 and 54", "5, 54 and 60"]);
  });
});

it("a look is never said to be through while it runs", () => {
  expect([
    percent({ done: 0, whole: 0 }),
    percent({ done: 1, whole: 3 }),
    percent({ done: 5, whole: 5 }),
  ]).toEqual([0, 33, 99]);
});
