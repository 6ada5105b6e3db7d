import { expect, it } from "vitest";
import { deskFinding, just } from "./address";

it("spells what a Desk is to find so that it comes back as it was asked", () => {
  const where = [`_changed_by:${just('the "night" load')}`, "ph:> 8.5 & < 9"];
  const asked = new URL(deskFinding("/d/samples", where, "a+b?"), "http://weft").searchParams;
  expect(asked.getAll("find")).toEqual(['_changed_by:"the ""night"" load"', "ph:> 8.5 & < 9"]);
  expect(asked.get("any")).toBe("a+b?");
});
