import { afterEach, expect, it, vi } from "vitest";
import { api } from "../api/client";
import { UnusualLook } from "./unusual";

interface Asked {
  path: { column?: string };
  query?: { by?: string; beyond?: number };
}

/** A server that holds every answer back until it is let go. */
function server(beyond: Record<string, number>) {
  const waiting: (() => void)[] = [];
  const asked: string[] = [];
  vi.spyOn(api, "GET").mockImplementation(((_: string, { params }: { params: Asked }) => {
    const { column } = params.path;
    const name = [column, params.query?.by, params.query?.beyond].filter(Boolean).join(" ");
    asked.push(name);
    const found = beyond[name];
    const data = column
      ? {
          many: found ? 1 : 0,
          often: found === 0,
          more: !params.query?.beyond,
          records: found ? [{ record: { row: asked.length }, beyond: found }] : [],
        }
      : { columns: ["ph", "flow"], parts: [{ column: "flow", of: "value" }] };
    return new Promise((done, fail) => {
      waiting.push(() =>
        Number.isNaN(found) ? fail(new Error("gone")) : done({ data, response: new Response() }),
      );
    });
  }) as unknown as typeof api.GET);
  const answer = async () => {
    waiting.shift()?.();
    await new Promise((next) => setTimeout(next));
  };
  const all = async () => {
    while (waiting.length > 0) await answer();
  };
  return { asked, answer, all };
}

afterEach(() => vi.restoreAllMocks());

const names = (look: UnusualLook) =>
  look.snapshot().groups.map(({ column, by }) => (by ? `${column} ${by.column}` : column));

it("looks at each column alone, then by the others, and shows the worst first", async () => {
  const { asked, all } = server({ ph: 2, "ph flow": 5, flow: 0 });
  const look = new UnusualLook("samples");
  look.begin();
  await all();
  expect(asked).toEqual(["", "ph", "flow", "ph flow"]);
  expect(names(look)).toEqual(["ph flow", "ph"]);
  expect(look.snapshot()).toMatchObject({ looking: false, done: 3, whole: 3, often: [{ column: "flow" }] });
});

it("lets go of what comes once it was ended, or begun anew", async () => {
  const { asked, answer, all } = server({ ph: 2, "ph flow": 5 });
  const look = new UnusualLook("samples");
  look.begin();
  await answer();
  look.end();
  await all();
  expect(names(look)).toEqual([]);
  expect(look.snapshot()).toMatchObject({ looking: false, done: 0, whole: 3 });
  look.begin();
  await answer();
  look.begin();
  await all();
  expect(names(look)).toEqual(["ph flow", "ph"]);
  expect(look.snapshot().done).toBe(3);
  expect(asked.filter((each) => each === "ph flow")).toHaveLength(1);
});

it("goes on from the last record that is shown, once, and keeps what it has when an answer is lost", async () => {
  const { all } = server({ ph: 3, "ph 3": 2, "ph flow": Number.NaN });
  const look = new UnusualLook("samples");
  look.begin();
  await all();
  expect(look.snapshot()).toMatchObject({ looking: false, done: 2, error: { message: "No connection." } });
  const [group] = look.snapshot().groups;
  if (!group) throw new Error("nothing was found");
  look.more(group);
  look.more(group);
  await all();
  expect(look.snapshot().groups[0]?.found).toMatchObject({
    more: false,
    records: [{ beyond: 3 }, { beyond: 2 }],
  });
});
