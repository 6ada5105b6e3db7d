import { expect, it } from "vitest";
import type { Assessment } from "../api/client";
import { assessment, field, form, table } from "../testing/given";
import { outdated, standing } from "./derived";
import type { EntryState } from "./entry";

const FORM = form([field("site"), field("name"), field("total"), field("state")]);
const TABLE = table({ site: "text", name: "text", total: "decimal", state: "text" });
const state = (typed: Record<string, string>, more: Partial<EntryState> = {}): EntryState => ({
  record: undefined,
  base: {},
  typed,
  stops: [],
  left: new Set(),
  pending: undefined,
  answers: {},
  chosen: {},
  isNew: {},
  lines: {},
  readLines: new Map(),
  lineStops: new Map(),
  assessment: assessment({
    values: { name: "Weir", total: "13.5", state: "open" },
    fields: {
      name: { origin: "filled" },
      total: { origin: "calculated" },
      state: { origin: "begun" },
    } as unknown as Assessment["fields"],
  }),
  ...more,
});

it("shows what rules put into fields that nobody typed in", () => {
  expect(standing(FORM, TABLE, state({ site: "QB-03" }))).toEqual({
    site: "QB-03",
    name: "Weir",
    total: "13.5",
    state: "open",
  });
});

it("leaves what was typed over a fill, but not over what is worked out", () => {
  expect(standing(FORM, TABLE, state({ name: "Other", total: "9" }))).toMatchObject({
    name: "Other",
    total: "13.5",
  });
});

it("leaves empty what was taken out of a field that begins with something", () => {
  expect(standing(FORM, TABLE, state({ state: "" })).state).toBe("");
});

it("fills a field of a stored record only where it is as it was", () => {
  const record = { id: 1, row: 1, version: 1, values: {} };
  const base = { name: "Old" };
  expect(standing(FORM, TABLE, state({ name: "Old" }, { record, base })).name).toBe("Weir");
  expect(standing(FORM, TABLE, state({ name: "Mine" }, { record, base })).name).toBe("Mine");
});

it("shows numbers with the form's decimal sign", () => {
  const comma = { ...FORM, decimalSign: "comma" } as typeof FORM;
  expect(standing(comma, TABLE, state({})).total).toBe("13,5");
});

it("is what was typed while no answer came", () => {
  expect(standing(FORM, TABLE, state({ site: "Q" }, { assessment: undefined }))).toEqual({ site: "Q" });
});

it("tells what is stored where something else is worked out by now", () => {
  const record = { id: 1, row: 1, version: 1, values: {} };
  const base = { total: "12", name: "Old" };
  expect(outdated(FORM, TABLE, state(base, { record, base }))).toEqual({ total: "12" });
  expect(outdated(FORM, TABLE, state({}, {}))).toEqual({});
  const same = { total: "13.5" };
  expect(outdated(FORM, TABLE, state(same, { record, base: same }))).toEqual({});
});
