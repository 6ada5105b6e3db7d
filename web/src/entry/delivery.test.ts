import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { Problem, Unreached } from "../api/client";
import { browser } from "../testing/given";
import { Assessing } from "./assessing";
import { Delivery } from "./delivery";

/** What comes of each time that it is sent. */
type Came = "saved" | "lost" | "refused" | "failed" | "unknown";

const answer = async (came: Came | undefined) => {
  if (came === "saved") return came;
  throw came === "lost"
    ? new Unreached()
    : new Problem(came === "refused" ? 422 : came === "failed" ? 500 : 404, `It is ${came}.`);
};

/** Delivers what is answered so, one answer after the other. */
function deliver(sends: Came[], outcomes?: Came[]) {
  const told = { sent: 0, asked: 0, waited: 0 };
  const delivery = new Delivery(1_000);
  const came = delivery
    .of({
      send: () => answer(sends[told.sent++]),
      outcome: outcomes && (() => answer(outcomes[told.asked++])),
      waiting: () => told.waited++,
    })
    .catch((e) => e.message);
  return { told, delivery, came };
}

beforeEach(() => {
  vi.useFakeTimers();
  browser();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it.each<[string, Came[], Came[] | undefined, string, number]>([
  ["sent again until it is answered", ["lost", "lost", "lost", "saved"], undefined, "saved", 4],
  ["not sent again when it is refused", ["lost", "refused"], undefined, "It is refused.", 2],
  ["asked about after a failure, and was saved", ["failed"], ["saved"], "saved", 1],
  ["asked about after a failure, and was not saved", ["failed"], ["unknown"], "It is failed.", 1],
  ["sent again where a failure can't be asked about", ["failed", "saved"], ["failed"], "saved", 2],
  ["sent again where that tells what came of it", ["failed", "saved"], undefined, "saved", 2],
  ["refused by what fails each time", ["failed", "failed"], undefined, "It is failed.", 2],
])("is %s", async (_, sends, outcomes, came, sent) => {
  const delivered = deliver(sends, outcomes);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(await delivered.came).toBe(came);
  expect(delivered.told.sent).toBe(sent);
});

it("waits longer each time, goes on when the connection is back, and ends when it is stopped", async () => {
  const { told, delivery, came } = deliver(Array(50).fill("lost"));
  await vi.advanceTimersByTimeAsync(500 + 1_000 + 2_000 + 4_000 + 5_000);
  expect(told).toMatchObject({ sent: 6, waited: 6 });
  window.dispatchEvent(new Event("online"));
  await vi.advanceTimersByTimeAsync(0);
  expect(told.sent).toBe(7);
  delivery.stop();
  expect(await came).toBeUndefined();
  await vi.advanceTimersByTimeAsync(60_000);
  expect(told.sent).toBe(7);
});

it("has it read once when the keys pause, and forgets an answer that comes late", async () => {
  const signals: AbortSignal[] = [];
  const assessing = new Assessing(async (signal) => {
    signals.push(signal);
  });
  for (let key = 0; key < 5; key++) {
    assessing.soon(80);
    await vi.advanceTimersByTimeAsync(60);
  }
  expect(signals).toHaveLength(0);
  await vi.advanceTimersByTimeAsync(80);
  assessing.soon(80);
  expect(signals.map(({ aborted }) => aborted)).toEqual([true]);
  assessing.now();
  await vi.advanceTimersByTimeAsync(500);
  expect(signals.map(({ aborted }) => aborted)).toEqual([true, false]);
  assessing.stop();
  expect(signals.every(({ aborted }) => aborted)).toBe(true);
});
