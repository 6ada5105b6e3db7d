import { describe, expect, it } from "vitest";
import type { Finding, StoredRecord } from "../api/client";
import { field } from "../testing/given";
import {
  changedLine,
  changedLines,
  draftOf,
  ended,
  type FormLines,
  type Lines,
  newLine,
  sentLines,
  stopsOf,
  storedLines,
  withDraft,
} from "./sheet";

const ITEM = {
  kind: "lines",
  id: "counts",
  label: "Counts",
  table: "counts",
  by: "sample",
  items: [field("taxon"), field("count")],
  blank: 3,
} as unknown as FormLines;

const stored = (id: number, taxon: string, count: number): StoredRecord => ({
  id,
  row: id,
  version: 2,
  values: { sample: { id: 7, row: 7, shown: "S-7" }, taxon, count },
});

const finding = (line: number | undefined, lines: string): Finding => ({
  field: "taxon",
  code: "required",
  severity: "stop",
  message: "Taxon is needed.",
  rule: "",
  line,
  lines,
});

describe("lines of a sheet", () => {
  it("have a blank one at the end, and in a new entry as many as the form begins with", () => {
    expect(ended(ITEM, [], true)).toHaveLength(3);
    expect(ended(ITEM, [], false)).toHaveLength(1);
    const filled = ended(
      ITEM,
      [newLine({ taxon: "a" }), newLine({ taxon: "b" }), newLine({ taxon: "c" })],
      true,
    );
    expect(filled.map(({ typed }) => typed.taxon ?? "")).toEqual(["a", "b", "c", ""]);
    const full = { ...ITEM, most: 2 };
    expect(
      ended(full, [newLine({ taxon: "a" }), newLine({ taxon: "b" }), newLine({ taxon: "c" })], false),
    ).toHaveLength(3);
  });

  it("are spelled as they would be typed: what is sent again means what is stored", () => {
    const number = { ...ITEM, items: ITEM.items.map((each) => ({ ...each, widget: "number" as const })) };
    const [line] = storedLines(number, [{ ...stored(1, "mayfly", 3), values: { count: "7.5" } }], "comma");
    expect(line?.base.count).toBe("7,5");
  });

  it("are sent where something of them is not stored, each under its own number", () => {
    const [first, second, third, blank] = storedLines(
      ITEM,
      [stored(1, "mayfly", 3), stored(2, "worm", 4), stored(3, "leech", 5)],
      "point",
    );
    if (!first || !second || !third || !blank) throw new Error("lines");
    expect(sentLines({ counts: [first, second, third, blank] })).toBeUndefined();
    const lines: Lines = {
      counts: [
        first,
        { ...second, typed: { ...second.typed, count: "40" } },
        { ...third, gone: true },
        { ...blank, typed: { taxon: "snail" } },
      ],
    };
    expect(sentLines(lines)).toEqual({
      counts: [
        { values: {} },
        { id: 2, version: 2, values: { taxon: "worm", count: "40" }, gone: undefined },
        { id: 3, version: 2, values: {}, gone: true },
        { id: undefined, version: undefined, values: { taxon: "snail" }, gone: undefined },
      ],
    });
    expect(changedLine({ ...second, typed: { ...second.typed, count: " 4 " } })).toBe(false);
  });

  it("get what was found in them, and what is of all of them together", () => {
    const lines: Lines = { counts: [newLine({ taxon: "a" }), newLine({ count: "1" })] };
    const stops = stopsOf(lines, [finding(2, "counts"), finding(undefined, "counts"), finding(9, "notes")]);
    expect(stops.get(lines.counts?.[1]?.id ?? -1)).toHaveLength(1);
    expect(stops.get(0)).toHaveLength(2);
    expect([...stops.keys()]).not.toContain(lines.counts?.[0]?.id);
  });

  it("come back as they were kept, whatever was added to them meanwhile", () => {
    const rows = [stored(1, "mayfly", 3), stored(2, "worm", 4)];
    const [first, second] = storedLines(ITEM, rows, "point");
    if (!first || !second) throw new Error("lines");
    const kept = draftOf({
      counts: [
        { ...first, typed: { ...first.typed, count: "30" } },
        { ...second, gone: true },
        newLine({ taxon: "new" }),
      ],
    });
    const again = storedLines(ITEM, [...rows, stored(3, "theirs", 1)], "point");
    const back = withDraft(ITEM, again, kept?.counts ?? [], false);
    expect(
      back.map(({ stored: there, typed, gone }) => [there?.id, typed.taxon ?? "", typed.count ?? "", !!gone]),
    ).toEqual([
      [1, "mayfly", "30", false],
      [2, "worm", "4", true],
      [3, "theirs", "1", false],
      [undefined, "new", "", false],
      [undefined, "", "", false],
    ]);
    expect(changedLines({ counts: back })).toBe(true);
    expect(draftOf({ counts: again })).toBeUndefined();
  });
});
