import { describe, expect, it } from "vitest";
import type { Form } from "../api/client";
import { itemsOf, widthOf } from "../model/items";
import { field, form } from "../testing/given";
import {
  change,
  columns,
  type Edit,
  freeId,
  insert,
  join,
  move,
  moveTo,
  remove,
  renamed,
  split,
} from "./edits";

const ids = (of: Form) => of.sections.map((section) => section.items.map((item) => item.id).join(""));
const START = form([field("a"), field("b"), field("c")], [field("d"), field("e")]);
const outline = (...edits: Edit[]) => ids(edits.reduce((now, edit) => edit(now), START));

describe("the outline", () => {
  it("moves items by one place, across the ends of sections", () => {
    expect(outline(move(["a"], 1))).toEqual(["bac", "de"]);
    expect(outline(move(["c"], 1))).toEqual(["ab", "cde"]);
    expect(outline(move(["d"], -1))).toEqual(["abcd", "e"]);
    expect(outline(move(["a", "b"], 1))).toEqual(["cab", "de"]);
    expect(outline(move(["b", "d"], -1))).toEqual(["bacd", "e"]);
  });

  it("leaves what stands at an end where it is", () => {
    expect(outline(move(["a"], -1))).toEqual(["abc", "de"]);
    expect(outline(move(["e"], 1))).toEqual(["abc", "de"]);
    expect(outline(move(["d", "e"], 1))).toEqual(["abc", "de"]);
  });

  it("puts items before or after another, and nothing beside itself", () => {
    expect(outline(moveTo(["a", "e"], "c", false))).toEqual(["baec", "d"]);
    expect(outline(moveTo(["a"], "e", true))).toEqual(["bc", "dea"]);
    expect(outline(moveTo(["a", "b"], "b", true))).toEqual(["abc", "de"]);
  });

  it("inserts at the end where there is no such place, and into a form that has no section", () => {
    expect(outline(insert([field("x")], "b"))).toEqual(["abxc", "de"]);
    expect(outline(insert([field("x")], "b", false))).toEqual(["axbc", "de"]);
    expect(outline(insert([field("x")], "gone"))).toEqual(["abc", "dex"]);
    expect(ids(insert([field("x")], undefined)(form()))).toEqual(["x"]);
  });

  it("splits a section before an item, and joins two again", () => {
    expect(outline(split("New", "b"))).toEqual(["a", "bc", "de"]);
    expect(outline(split("New", undefined))).toEqual(["abc", "de", ""]);
    expect(outline(split("New", "b"), join(1))).toEqual(["abc", "de"]);
    expect(join(0)(form([field("a")])).sections).toHaveLength(1);
  });

  it("changes what an item has, and of other kinds only what they have", () => {
    const words = { kind: "heading", id: "h", text: "Site", width: 12 } as never;
    const changed = change(["a", "h"], { width: 6, required: true })(form([field("a"), words]));
    expect(itemsOf(changed)[0]).toMatchObject({ width: 6, required: true });
    expect(itemsOf(changed)[1]).toEqual({ kind: "heading", id: "h", text: "Site", width: 6 });
  });

  it("gives each field of a section an even share, but long ones", () => {
    const made = columns(0, 3)(form([field("a"), field("b", { widget: "area", width: 12 })]));
    expect(itemsOf(made).map(widthOf)).toEqual([4, 12]);
  });

  it("names what is pasted so that no two bear one name", () => {
    expect(freeId(START, "x")).toBe("x");
    expect(renamed(START, [field("a"), field("a"), field("x")]).map((item) => item.id)).toEqual([
      "a_2",
      "a_3",
      "x",
    ]);
  });

  it("never loses or doubles an item, whatever is done", () => {
    let seed = 20261123;
    const next = (below: number) => {
      seed = (seed * 1103515245 + 12345) % 2147483648;
      return seed % below;
    };
    let now = START;
    for (let n = 0; n < 2_000; n++) {
      const all = itemsOf(now).map((item) => item.id);
      const one = all[next(all.length)] as string;
      const other = all[next(all.length)] as string;
      const edits: Edit[] = [
        move([one, other], next(2) === 0 ? 1 : -1),
        moveTo([one], other, next(2) === 0),
        split("Part", now.sections.length < 6 ? one : undefined),
        join(next(now.sections.length)),
      ];
      now = edits[next(edits.length)]?.(now) ?? now;
      expect(
        itemsOf(now)
          .map((item) => item.id)
          .sort(),
      ).toEqual(["a", "b", "c", "d", "e"]);
    }
    expect(ids(remove(["a", "b", "c", "d", "e"])(now)).join("")).toBe("");
  });
});
