import { describe, expect, it } from "vitest";
import { ofRows } from "./Begin";

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
