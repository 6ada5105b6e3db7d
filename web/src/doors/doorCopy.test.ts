import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { server } from "../testing/given";
import { type DoorAnswer, DoorCopy } from "./doorCopy";

const DOOR = {
  id: "gate",
  title: "Gate",
  may: ["see"],
  who: {},
  view: {},
  frays: [],
} as unknown as DoorAnswer;

let stored: DoorAnswer;
let revision: number;
let told: number;
/** What the next saves are answered with, where it is not what was sent. */
let instead: (undefined | "lost" | 400)[];

const came = () => ({ status: 200, body: structuredClone(stored), tag: `"${revision}"` });

/** A door whose server takes whole documents by the version that was seen. */
async function given() {
  const sent = server(({ body, ifMatch }) => {
    // What is read, and not saved, names no version.
    if (ifMatch === undefined) return came();
    if (instead.length > 0) {
      const next = instead.shift();
      if (next !== undefined) return next === "lost" ? undefined : { status: next, body: { detail: "No." } };
    }
    if (ifMatch !== `"${revision}"`) return { status: 412, body: { detail: "Somebody was first." } };
    stored = { ...stored, ...(body as Partial<DoorAnswer>) };
    revision++;
    return came();
  });
  const copy = new DoorCopy("samples", "gate", () => told++);
  await copy.fetch();
  return { copy, saves: () => sent.filter(({ ifMatch }) => ifMatch !== undefined) };
}

const pass = (millis: number) => vi.advanceTimersByTimeAsync(millis);

beforeEach(() => {
  vi.useFakeTimers();
  stored = structuredClone(DOOR);
  revision = 1;
  told = 0;
  instead = [];
});
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

it("shows a change at once, and saves what was changed in a moment together", async () => {
  const { copy, saves } = await given();
  copy.change({ title: "Gates" });
  copy.change({ may: ["see", "add"] });
  expect(copy.snapshot().door).toMatchObject({ title: "Gates", may: ["see", "add"] });
  expect(saves()).toHaveLength(0);
  await pass(500);
  expect(saves()).toHaveLength(1);
  expect(stored).toMatchObject({ title: "Gates", may: ["see", "add"] });
  expect(told).toBe(1);
});

it("saves what is changed while a save is under way, in its turn", async () => {
  const { copy } = await given();
  for (let n = 0; n < 20; n++) {
    copy.change(n % 2 === 0 ? { title: `Gate ${n}` } : { may: n % 4 === 1 ? ["see"] : ["see", "remove"] });
    copy.save();
    if (n % 3 === 0) await pass(0);
  }
  await pass(5_000);
  expect(stored).toMatchObject({ title: "Gate 18", may: ["see", "remove"] });
  expect(copy.snapshot()).toMatchObject({ door: { title: "Gate 18" }, trouble: undefined });
});

it("is made again on top of what somebody else changed meanwhile", async () => {
  const { copy } = await given();
  stored = { ...stored, title: "Theirs", may: ["see", "export"] };
  revision = 7;
  copy.change({ title: "Mine" });
  await pass(5_000);
  expect(stored).toMatchObject({ title: "Mine", may: ["see", "export"] });
  expect(copy.snapshot().door).toMatchObject({ title: "Mine", may: ["see", "export"] });
});

it("waits for a lost connection, says so meanwhile, and loses nothing", async () => {
  const { copy } = await given();
  instead = ["lost", "lost"];
  copy.change({ title: "Mine" });
  await pass(1_000);
  expect(copy.snapshot().trouble).toBeInstanceOf(Error);
  copy.change({ may: [] });
  await pass(10_000);
  expect(stored).toMatchObject({ title: "Mine", may: [] });
  expect(copy.snapshot().trouble).toBeUndefined();
});

it("takes no older version for the newest when answers come out of their order", async () => {
  const { copy } = await given();
  const before = came();
  copy.change({ title: "Mine" });
  let late: (answer: ReturnType<typeof came>) => void = () => {};
  server(({ ifMatch, body }) => {
    if (ifMatch === undefined) return new Promise((resolve) => (late = resolve));
    stored = { ...stored, ...(body as Partial<DoorAnswer>) };
    revision++;
    return came();
  });
  const fetching = copy.fetch();
  await pass(1_000);
  late(before);
  await fetching;
  expect(copy.snapshot().door).toMatchObject({ title: "Mine" });
});

it("keeps what is refused as it was set, and sends it with what puts it right", async () => {
  const { copy, saves } = await given();
  instead = [400];
  copy.change({ title: "" });
  await pass(10_000);
  expect(saves()).toHaveLength(1);
  expect(copy.snapshot()).toMatchObject({ door: { title: "" }, trouble: new Error("No.") });
  copy.change({ may: ["add"] });
  await pass(1_000);
  expect(stored).toMatchObject({ title: "", may: ["add"] });
});
