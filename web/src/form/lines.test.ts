import { expect, it } from "vitest";
import { widthOf } from "../model/items";
import { field } from "../testing/given";
import { lines } from "./lines";

it("breaks items into lines of twelve tracks, in their order", () => {
  for (let seed = 1; seed < 500; seed++) {
    const items = Array.from({ length: seed % 17 }, (_, n) =>
      field(`f${n}`, { width: 1 + ((seed * 7 + n * n * 5) % 12) }),
    );
    const broken = lines(items);
    expect(broken.flat()).toEqual(items);
    broken.forEach((line, at) => {
      const width = line.reduce((sum, item) => sum + widthOf(item), 0);
      expect(width).toBeGreaterThan(0);
      expect(width).toBeLessThanOrEqual(12);
      // The first of the next line did not fit any more.
      const next = broken[at + 1]?.[0];
      if (next) expect(width + widthOf(next)).toBeGreaterThan(12);
    });
  }
});
