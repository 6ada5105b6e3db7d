import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { browser, server } from "../testing/given";
import { Press } from "./press";

const done = { status: 200, body: { set: {}, saved: null } };
const body = { values: { site: "QB-03" } };

beforeEach(() => {
  browser();
});
afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

it("goes once however often the button is pressed before it is answered", async () => {
  const sent = server(() => done);
  const press = new Press();
  const all = await Promise.all([1, 2, 3].map(() => press.of("samples", "b", body)));
  expect(sent).toHaveLength(1);
  expect(all.filter(Boolean)).toHaveLength(1);
});

it("goes again under the same key after a lost answer or a failed server, and under another once it is answered", async () => {
  const answers = [undefined, { status: 500, body: {} }, { status: 503, body: "" }, done, done];
  const sent = server(() => answers.shift());
  const press = new Press();
  for (let n = 0; n < 5; n++) await press.of("samples", "b", body).catch(() => {});
  const keys = sent.map((each) => each.key);
  expect(new Set(keys.slice(0, 4)).size).toBe(1);
  expect(keys[4]).not.toBe(keys[3]);
});

it("is another press once something else is typed, or it was refused", async () => {
  const answers = [undefined, { status: 422, body: { findings: [] } }, done];
  const sent = server(() => answers.shift());
  const press = new Press();
  await press.of("samples", "b", body).catch(() => {});
  await press.of("samples", "b", { values: { site: "QB-04" } }).catch(() => {});
  await press.of("samples", "b", { values: { site: "QB-04" } });
  expect(new Set(sent.map((each) => each.key)).size).toBe(3);
});
