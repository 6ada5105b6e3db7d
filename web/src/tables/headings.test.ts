import { describe, expect, it } from "vitest";
import { asSaid, headings, ofRows } from "./headings";

it.each([
  ["Site\npH\n\nNote", ["Site", "pH", "Note"]],
  ["Site\tpH\tNote\n", ["Site", "pH", "Note"]],
  ["Site; pH, whole; Note", ["Site", "pH, whole", "Note"]],
  ['"Site", pH', ["Site", "pH"]],
  ["  ", []],
])("reads the headings in %j", (typed, all) => {
  expect(headings(typed)).toEqual(all);
});

describe("a text that is pasted where headings are typed", () => {
  it("is rows with their headings where every line is parted alike", () => {
    expect(ofRows("Tag\tPieces\nK-07\t3\nK-08\t5")).toBe(true);
    expect(ofRows("Tag;Pieces\r\nK-07;3")).toBe(true);
    expect(ofRows("Tag,Pieces\nK-07,3\n\n")).toBe(true);
  });

  it("is headings otherwise", () => {
    expect(ofRows("Tag\tPieces\tShelf")).toBe(false);
    expect(ofRows("Tag\nPieces\nShelf")).toBe(false);
    expect(ofRows("Tag\nPieces, whole 1 to 30\nShelf, one of A, B")).toBe(false);
  });
});

describe("headings that were typed", () => {
  const proposal = { say: "date", why: "its heading ends in on" };
  const read = async (asked: string[]) => {
    await new Promise((resolve) => setTimeout(resolve, 20 * Math.random()));
    return asked.map((line) => ({
      unclear: line.includes("?") ? "It is not understood." : null,
      proposal: line.endsWith(" on") ? proposal : null,
    })) as never;
  };

  it("are made with what they tell, though nobody waited for it", async () => {
    const lines = [
      { text: "Site", plain: false },
      { text: "Taken on", plain: false },
      { text: "Seen on", plain: true },
    ];
    expect(await asSaid(lines, read)).toEqual(["Site", "Taken on, date", "Seen on"]);
  });

  it("are not made where one is unclear", async () => {
    expect(await asSaid([{ text: "Why?", plain: false }], read)).toBeUndefined();
  });
});
