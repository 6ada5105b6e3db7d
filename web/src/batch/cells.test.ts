import { expect, test } from "vitest";
import type { FormField } from "../api/client";
import { parted, spelled, spread } from "./cells";

const field = (label: string, column = label.toLowerCase()) => ({ id: column, label, column }) as FormField;
const FIELDS = [field("Taxon"), field("Stage"), field("Count"), field("Counted on", "counted_on")];

test("text is parted into cells as programs copy them, quoted or not", () => {
  expect(parted("a\tb\r\n c \t\r\n")).toEqual([
    ["a", "b"],
    ["c", ""],
  ]);
  expect(parted('"two\nlines"\t"he said ""so"""\n')).toEqual([["two\nlines", 'he said "so"']]);
  expect(parted("")).toEqual([]);
});

test("cells spread from the cursor to the right, and what has no field is told", () => {
  expect(spread([["larva", "3"]], FIELDS, 1)).toEqual({
    lines: [{ stage: "larva", count: "3" }],
    leftOut: "",
  });
  const { lines, leftOut } = spread([["3", "8/1", "x", "y"], ["4"]], FIELDS, 2);
  expect(lines).toEqual([{ count: "3", counted_on: "8/1" }, { count: "4" }]);
  expect(leftOut).toBe("2 cells to the right of the last field were left out.");
});

test("a first line of headings sorts the columns, whatever their case and blanks", () => {
  const { lines, leftOut } = spread(
    [
      ["COUNT", "Taxon ", "weather", "counted-on"],
      ["3", "snail", "wet", "t"],
    ],
    FIELDS,
    3,
  );
  expect(lines).toEqual([{ count: "3", taxon: "snail", counted_on: "t" }]);
  expect(leftOut).toBe("No field is called “weather”; what stood there was left out.");
});

test("a line is no heading when few of its cells are names, or when nothing follows it", () => {
  expect(spread([["Stage", "larva", "3"], ["a"]], FIELDS, 0).lines[0]).toEqual({
    taxon: "Stage",
    stage: "larva",
    count: "3",
  });
  expect(spread([["Taxon", "Stage"]], FIELDS, 0).lines).toEqual([{ taxon: "Taxon", stage: "Stage" }]);
});

test("lines that are copied out come back the same", () => {
  const lines = [
    { taxon: 'a "b"', stage: "x\ty", count: "1", counted_on: "" },
    { taxon: "two\nlines", stage: "", count: "2", counted_on: "t" },
  ];
  const back = spread(parted(spelled(FIELDS, lines)), FIELDS, 0);
  expect(back).toEqual({ lines, leftOut: "" });
});
