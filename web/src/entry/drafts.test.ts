import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { browser, field, form } from "../testing/given";
import { forget, keepDraft, leftOver, setAside } from "./drafts";
import { Entry } from "./entry";

let entry: Entry;
let stop: () => void;

beforeEach(() => {
  vi.useFakeTimers();
  browser();
  entry = new Entry("samples");
  entry.follow(form([field("site"), field("ph")]), 1);
  stop = keepDraft("samples", entry);
});
afterEach(() => {
  stop();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** The page is gone for so long that nobody takes it for open any more. */
const gone = () => {
  stop();
  vi.advanceTimersByTime(10_000);
};

it("keeps what is typed from the first key, and offers it once its page is gone", () => {
  entry.type("site", "Q");
  entry.type("site", "QB");
  vi.advanceTimersByTime(60_000);
  expect(leftOver("samples")).toEqual([]);
  gone();
  expect(leftOver("samples")).toMatchObject([{ record: null, typed: { site: "QB" } }]);
  expect(leftOver("bookings")).toEqual([]);
});

it("keeps of a stored record what is changed in it", () => {
  entry.show({ id: 7, row: 3, version: 1, values: {} }, { site: "QB-03", ph: "7.0" });
  entry.type("ph", "7.4");
  gone();
  expect(leftOver("samples")).toMatchObject([{ record: { id: 7, row: 3 }, typed: { ph: "7.4" } }]);
});

it("keeps nothing that is saved, on its way or taken out again", () => {
  entry.type("site", "QB-03");
  entry.await("key");
  gone();
  expect(leftOver("samples")).toEqual([]);
});

it("sets a reloaded page's draft aside, so that the next entry does not write over it", () => {
  entry.type("site", "QB-03");
  setAside("samples");
  entry.turn();
  entry.type("site", "QB-04");
  expect(leftOver("samples").map(({ typed }) => typed.site)).toEqual(["QB-03"]);
  gone();
  const both = leftOver("samples");
  expect(both.map(({ typed }) => typed.site).sort()).toEqual(["QB-03", "QB-04"]);
  for (const draft of both) forget(draft);
  expect(leftOver("samples")).toEqual([]);
});
