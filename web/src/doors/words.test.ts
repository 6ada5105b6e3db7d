import { expect, it } from "vitest";
import type { Schemas } from "../api/client";
import type { DoorAnswer } from "./doorCopy";
import { inOneLine, may } from "./words";

it.each<[Schemas["May"][], string]>([
  [["add"], "add only"],
  [["see"], "look only"],
  [["see", "export"], "see, export"],
  [[], "nothing yet"],
  [["see", "add", "change", "remove", "export"], "everything"],
])("says of %j: %s", (what, words) => {
  expect(may(what)).toBe(words);
});

it("tells a door in one line: who, what, and which records", () => {
  const door = { who: {}, view: {}, may: ["see"] } as unknown as DoorAnswer;
  expect(inOneLine(door)).toBe("nobody yet · look only · all records");
  expect(
    inOneLine({
      ...door,
      who: { groups: ["Samplers"], people: ["odile"], link: true },
      view: { where: ["site:QB-03"], own: true },
      may: ["add"],
    } as unknown as DoorAnswer),
  ).toBe("Samplers, odile, anybody with the address · add only · no record is shown");
  expect(inOneLine({ ...door, view: { where: ["ph:> 9"], own: true } } as unknown as DoorAnswer)).toBe(
    "nobody yet · look only · ph > 9, their own",
  );
});
