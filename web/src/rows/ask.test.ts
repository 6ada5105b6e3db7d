import { describe, expect, it } from "vitest";
import { askOf, EVERYTHING, finding, levels, pressed, question, spelled } from "./ask";

describe("a question", () => {
  it("is asked as the API takes it, and read back the same", () => {
    const ask = { where: { ph: "> 8.5", remark: 'at "9:30"', flow: "  " }, any: " weir ", sort: "-taken_on" };
    expect(question(ask)).toEqual({
      where: ["ph:> 8.5", 'remark:at "9:30"'],
      any: "weir",
      sort: "-taken_on",
    });
    expect(askOf(["ph:> 8.5", 'remark:at "9:30"'], "weir", "-taken_on")).toEqual({
      where: { ph: "> 8.5", remark: 'at "9:30"' },
      any: "weir",
      sort: "-taken_on",
    });
  });

  it("asks for everything where nothing is typed", () => {
    expect(finding(EVERYTHING)).toBe(false);
    expect(finding({ ...EVERYTHING, where: { ph: " " } })).toBe(false);
    expect(finding({ ...EVERYTHING, where: { ph: "7" } })).toBe(true);
    expect(question(EVERYTHING)).toEqual({ where: [], any: undefined, sort: undefined });
  });
});

describe("an order", () => {
  it("goes up, down and away with presses on one heading", () => {
    expect(pressed("row", "ph", false)).toBe("ph");
    expect(pressed("ph", "ph", false)).toBe("-ph");
    expect(pressed("-ph", "ph", false)).toBe("row");
    expect(pressed("-ph,site", "flow", false)).toBe("flow");
  });

  it("takes further headings in behind the others, each turned where it stands", () => {
    expect(pressed("site", "ph", true)).toBe("site,ph");
    expect(pressed("site,ph", "site", true)).toBe("-site,ph");
    expect(pressed("-site,ph", "site", true)).toBe("ph");
    expect(pressed("ph", "ph", true)).toBe("-ph");
  });

  it("is spelled as it was read", () => {
    for (const sort of ["row", "ph", "-ph", "-taken_on,site"]) expect(spelled(levels(sort))).toBe(sort);
  });
});
