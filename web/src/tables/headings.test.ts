import { expect, it } from "vitest";
import { headings } from "./headings";

it.each([
  ["Site\npH\n\nNote", ["Site", "pH", "Note"]],
  ["Site\tpH\tNote\n", ["Site", "pH", "Note"]],
  ["Site; pH, whole; Note", ["Site", "pH, whole", "Note"]],
  ['"Site", pH', ["Site", "pH"]],
  ["  ", []],
])("reads the headings in %j", (typed, all) => {
  expect(headings(typed)).toEqual(all);
});
