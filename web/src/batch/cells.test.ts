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

test("a quote that no other ends is a sign like any", () => {
  expect(parted('"5 m\tdeep\n6" wide\tx')).toEqual([
    ['"5 m', "deep"],
    ['6" wide', "x"],
  ]);
  expect(parted('a\t"b "c""\td')).toEqual([["a", '"b "c""', "d"]]);
});

test("headings that differ in signs or scripts are others", () => {
  const signs = [field("A+", "a_plus"), field("A-", "a_minus"), field("m²", "m2"), field("Глубина", "depth")];
  const { lines, leftOut } = spread(
    [
      ["глубина", "m²", "A-", "A+"],
      ["1", "2", "3", "4"],
    ],
    signs,
    0,
  );
  expect(lines).toEqual([{ depth: "1", m2: "2", a_minus: "3", a_plus: "4" }]);
  expect(leftOut).toBe("");
});

test("what stands twice or without a heading is told, and the first is taken", () => {
  const { lines, leftOut } = spread(
    [
      ["Taxon", "Taxon", "", "Count"],
      ["snail", "leech", "odd", "3", "more"],
    ],
    FIELDS,
    0,
  );
  expect(lines).toEqual([{ taxon: "snail", count: "3" }]);
  expect(leftOut).toBe(
    "“Taxon” stands there twice; the first was taken. 2 cells without a heading were left out.",
  );
});

test("a first cell that happens to be a label leaves its column where it is", () => {
  const cells = [
    ["Stage", "larva"],
    ["snail", "egg"],
  ];
  expect(spread(cells, FIELDS, 0).lines).toEqual([
    { taxon: "Stage", stage: "larva" },
    { taxon: "snail", stage: "egg" },
  ]);
});
