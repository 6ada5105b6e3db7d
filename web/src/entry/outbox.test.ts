import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { browser, server, stop } from "../testing/given";
import { Outbox, type Outgoing } from "./outbox";

let kept: Map<string, string>;
const heard: string[] = [];
const hearer = {
  saved: ({ typed }: Outgoing) => heard.push(`saved ${typed.site}`),
  stopped: ({ typed }: Outgoing) => heard.push(`stopped ${typed.site}`),
  waiting: ({ typed }: Outgoing) => heard.push(`waiting ${typed.site}`),
};
const saved = { status: 201, body: { id: 1, row: 1, version: 1, values: {} } };
const add = (outbox: Outbox, site: string) => outbox.add({ site }, 1, {});
const settle = (millis = 0) => vi.advanceTimersByTimeAsync(millis);

beforeEach(() => {
  vi.useFakeTimers();
  kept = browser();
  heard.length = 0;
});
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

describe("entries on their way", () => {
  it("go one after another, in the order keyed, each under a key of its own", async () => {
    const sent = server(() => saved);
    const outbox = new Outbox("samples");
    outbox.start(hearer);
    for (let n = 0; n < 20; n++) add(outbox, `Q${n}`);
    await settle();
    expect(sent.map((each) => (each.body.values as { site: string }).site)).toEqual(
      Array.from({ length: 20 }, (_, n) => `Q${n}`),
    );
    expect(new Set(sent.map((each) => each.key)).size).toBe(20);
    expect(outbox.snapshot()).toEqual([]);
    expect(kept.size).toBe(0);
  });

  it("are in the browser's storage from the moment they are taken until they are answered", () => {
    server(() => saved);
    const outbox = new Outbox("samples");
    add(outbox, "QB-03");
    expect([...kept.values()].map((each) => JSON.parse(each).typed)).toEqual([{ site: "QB-03" }]);
    const reopened = new Outbox("samples");
    expect(reopened.snapshot().map(({ typed }) => typed.site)).toEqual(["QB-03"]);
    expect(new Outbox("bookings").snapshot()).toEqual([]);
  });

  it("wait for a lost connection and are sent again under the same key", async () => {
    let connected = false;
    const sent = server(() => (connected ? saved : undefined));
    const outbox = new Outbox("samples");
    outbox.start(hearer);
    add(outbox, "QB-01");
    add(outbox, "QB-02");
    await settle(2_000);
    expect(outbox.snapshot().map(({ state }) => state)).toEqual(["waiting", "waiting"]);
    const tries = sent.length;
    expect(tries).toBeGreaterThan(1);
    expect(new Set(sent.map((each) => each.key)).size).toBe(1);
    connected = true;
    window.dispatchEvent(new Event("online"));
    await settle();
    expect(heard.filter((each) => each.startsWith("saved"))).toEqual(["saved QB-01", "saved QB-02"]);
    expect(sent[tries]?.key).toBe(sent[0]?.key);
  });

  it("that are stopped step aside for the next, and are kept until somebody mends them", async () => {
    server(({ body }) =>
      (body.values as { site: string }).site === "QB-01"
        ? { status: 422, body: { detail: "It can't be saved.", findings: [stop("ph")] } }
        : saved,
    );
    const outbox = new Outbox("samples");
    outbox.start(hearer);
    add(outbox, "QB-01");
    add(outbox, "QB-02");
    await settle();
    expect(heard).toEqual(["stopped QB-01", "saved QB-02"]);
    const [stopped] = outbox.snapshot();
    expect(stopped).toMatchObject({
      state: "stopped",
      message: "It can't be saved.",
      findings: [stop("ph")],
    });
    expect(new Outbox("samples").snapshot()).toHaveLength(1);
    outbox.remove(stopped?.key ?? "");
    expect(kept.size).toBe(0);
  });

  it("take a server that is being started again for a lost connection", async () => {
    let answers = 0;
    server(() => (answers++ < 2 ? { status: 503, body: "" } : saved));
    const outbox = new Outbox("samples");
    outbox.start(hearer);
    add(outbox, "QB-01");
    await settle(5_000);
    expect(heard).toEqual(["waiting QB-01", "waiting QB-01", "saved QB-01"]);
  });

  it("are asked about by their key when a server fails, and neither doubled nor lost", async () => {
    let outcome = 0;
    const sent = server(({ path }) => {
      if (!path.includes("/saves/")) return { status: 500, body: { detail: "Something went wrong." } };
      return [
        { status: 500, body: {} },
        { ...saved, status: 200 },
        { status: 404, body: {} },
      ][outcome++];
    });
    const outbox = new Outbox("samples");
    outbox.start(hearer);
    add(outbox, "QB-01");
    await settle(2_000);
    expect(heard).toEqual(["waiting QB-01", "saved QB-01"]);
    add(outbox, "QB-02");
    await settle();
    expect(heard.at(-1)).toBe("stopped QB-02");
    expect(new Set(sent.filter((each) => each.key).map((each) => each.key)).size).toBe(2);
  });

  it("are not sent once nobody hears of them", async () => {
    const sent = server(() => saved);
    const outbox = new Outbox("samples");
    outbox.start(hearer);
    outbox.stop();
    add(outbox, "QB-01");
    await settle(1_000);
    expect(sent).toEqual([]);
    expect(outbox.snapshot()).toHaveLength(1);
  });
});
