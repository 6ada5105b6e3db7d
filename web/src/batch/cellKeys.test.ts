import { beforeEach, expect, it, vi } from "vitest";
import type { FormField, Ruled } from "../api/client";
import { field } from "../testing/given";
import type { At } from "./at";
import { beside, cellKey, firstOf } from "./cellKeys";
import type { GridModel } from "./model";

/** Four columns, of which the second is given a number and the third is locked in the second line. */
const FIELDS = ["site", "number", "ph", "note"].map((column) => field(column)) as FormField[];
const RULED = { number: { numbered: true } } as unknown as Ruled;

let did: string[];
let at: At | undefined;

function cells(lines = 3, { gone = -1 } = {}) {
  const grid = {
    lines: Array.from({ length: lines }, (_, n) => ({ id: n + 1, typed: {}, gone: n === gone })),
    read: new Map([[2, { fields: { ph: { locked: true, origin: "typed" } } }]]),
  };
  const model = {
    grid: () => grid,
    asAbove: (line: number, columns: string[]) => did.push(`as above ${line} ${columns}`),
    takeOut: (line: number) => did.push(`out ${line}`),
    insert: (line: number) => did.push(`insert ${line}`),
    type: (line: number, column: string, text: string) => did.push(`type ${line} ${column} ${text}`),
  } as unknown as GridModel;
  const move = (to: At) => {
    at = to;
  };
  return { model, fields: FIELDS, ruled: RULED, move };
}

/** That key, in a box whose list is open or not. */
const key = (name: string, more: Partial<KeyboardEvent> & { listed?: boolean } = {}) =>
  ({
    key: name,
    altKey: false,
    ctrlKey: false,
    metaKey: false,
    shiftKey: false,
    isComposing: false,
    target: { getAttribute: () => (more.listed ? "true" : "false") },
    ...more,
  }) as unknown as KeyboardEvent;

const pressed = (e: KeyboardEvent, from: At, of = cells()) => {
  at = undefined;
  return cellKey(e, from, "before", of) ? at : "not for lines";
};

beforeEach(() => {
  did = [];
  vi.stubGlobal("document", { querySelector: () => null });
});

it("goes to the next cell that takes keys, over numbers, locks and lines that are taken out", () => {
  const of = cells();
  expect(beside(of, { line: 0, column: 0 }, 1)).toEqual({ line: 0, column: 2 });
  expect(beside(of, { line: 0, column: 3 }, 1)).toEqual({ line: 1, column: 0 });
  expect(beside(of, { line: 1, column: 0 }, 1)).toEqual({ line: 1, column: 3 });
  expect(beside(of, { line: 1, column: 3 }, -1)).toEqual({ line: 1, column: 0 });
  expect(beside(of, { line: 0, column: 0 }, -1)).toBeUndefined();
  expect(beside(of, { line: 2, column: 3 }, 1)).toBeUndefined();
  expect(firstOf(cells(3, { gone: 1 }), 1)).toEqual({ line: 2, column: 0 });
});

it("there and back again is where one was, from any cell", () => {
  for (let line = 0; line < 3; line++)
    for (let column = 0; column < 4; column++) {
      const there = beside(cells(), { line, column }, 1);
      const back = there && beside(cells(), there, -1);
      const open = !(column === 1 || (column === 2 && line === 1));
      if (there && open) expect(back).toEqual({ line, column });
    }
});

it("Tab and Enter move on, and past the last line Tab leaves", () => {
  expect(pressed(key("Tab"), { line: 0, column: 0 })).toEqual({ line: 0, column: 2 });
  expect(pressed(key("Tab", { shiftKey: true }), { line: 1, column: 0 })).toEqual({ line: 0, column: 3 });
  expect(pressed(key("Tab"), { line: 2, column: 3 })).toBe("not for lines");
  expect(pressed(key("Enter"), { line: 0, column: 2 })).toEqual({ line: 1, column: 0 });
  expect(pressed(key("Enter"), { line: 2, column: 2 })).toEqual({ line: 2, column: 0 });
});

it("leaves Enter to a list in which something is chosen, to Ctrl, and to a word that is being composed", () => {
  const from = { line: 0, column: 0 };
  expect(pressed(key("Enter", { ctrlKey: true }), from)).toBe("not for lines");
  expect(pressed(key("Enter", { isComposing: true }), from)).toBe("not for lines");
  expect(pressed(key("ArrowDown", { listed: true }), from)).toBe("not for lines");
  vi.stubGlobal("document", { querySelector: () => ({}) });
  expect(pressed(key("Enter", { listed: true }), from)).toBe("not for lines");
});

it("arrows go up and down, and stay within the lines", () => {
  expect(pressed(key("ArrowDown"), { line: 0, column: 3 })).toEqual({ line: 1, column: 3 });
  expect(pressed(key("ArrowUp"), { line: 1, column: 3 })).toEqual({ line: 0, column: 3 });
  expect(pressed(key("ArrowUp"), { line: 0, column: 3 })).toBe("not for lines");
  expect(pressed(key("ArrowDown"), { line: 2, column: 3 })).toBe("not for lines");
});

it("fills in as above, takes out, puts in and takes back what was typed", () => {
  const from = { line: 2, column: 2 };
  pressed(key("ArrowUp", { altKey: true }), from);
  pressed(key("ArrowUp", { altKey: true, shiftKey: true }), from);
  pressed(key("Delete", { ctrlKey: true }), from);
  expect(pressed(key("i", { altKey: true }), from)).toEqual({ line: 2, column: 0 });
  pressed(key("Escape"), from);
  expect(did).toEqual([
    "as above 2 ph",
    "as above 2 site,number,ph,note",
    "out 2",
    "insert 2",
    "type 2 ph before",
  ]);
});
