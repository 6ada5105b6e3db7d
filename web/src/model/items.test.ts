import { expect, it } from "vitest";
import { field, form } from "../testing/given";
import { firstField, focusable, widthOf } from "./items";

it("Tab stops where one can type or read, and typing begins where the form says", () => {
  const of = form([
    field("hidden", { use: "hidden" }),
    field("shown", { use: "read-only" }),
    field("site"),
    field("ph", { first: true }),
  ]);
  expect(focusable(of).map(({ column }) => column)).toEqual(["shown", "site", "ph"]);
  expect(firstField(of)?.column).toBe("ph");
  expect(firstField(form([field("site"), field("ph")]))?.column).toBe("site");
  expect(firstField(form([field("shown", { use: "read-only" })]))).toBeUndefined();
  expect(widthOf({ kind: "lines" } as never)).toBe(12);
});
