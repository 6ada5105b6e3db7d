import { expect, it } from "vitest";
import { between, percent, perHundred, seconds, shareOf } from "./words";

it("shows shares, times and rates with as many digits as tell something, and a dash for none", () => {
  expect([0.0123, 0.1, 1].map(percent)).toEqual(["1.23 %", "10.0 %", "100.0 %"]);
  expect(shareOf({ times: 0, of: 0 } as never)).toBe("–");
  expect(shareOf({ times: 1, of: 8 } as never)).toBe("12.5 %");
  expect(between({ low: 0.0312, high: 0.2 } as never)).toBe("3.12 to 20.00");
  expect([undefined, null, 9.96, 123.4].map(seconds)).toEqual(["–", "–", "10.0", "123"]);
  expect([perHundred(1, 0), perHundred(1, 3)]).toEqual(["–", "33.3"]);
});
