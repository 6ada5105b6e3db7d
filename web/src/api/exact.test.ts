import { expect, it } from "vitest";
import { exact } from "./exact";

it("leaves what a page can hold as it is", () => {
  for (const json of ['{"a":1}', '{"a":"9007199254740993"}', '{"a":9007199254740991,"b":[1.5,-2]}', "[]"])
    expect(JSON.parse(exact(json))).toEqual(JSON.parse(json));
});

it("keeps every digit of what it cannot", () => {
  for (const digits of [
    "9007199254740993",
    "-9007199254740993",
    "9223372036854775807",
    "-9223372036854775808",
  ]) {
    expect(JSON.parse(exact(`{"values":{"n":${digits} },"list":[1,${digits}]}`))).toEqual({
      values: { n: digits },
      list: [1, digits],
    });
  }
});
