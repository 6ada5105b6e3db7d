import { afterEach, describe, expect, it, vi } from "vitest";
import { api, Problem, Unreached } from "../api/client";
import { assessed } from "./progress";

const LINES = [{ line: 1, values: { site: "Straße ☂" } }];
const WORDS = `{"checked":120}\n{"checked":300}\n${JSON.stringify({ lines: LINES })}\n`;

/** Answers with those bytes, so many at a time. */
function answering(text: string, at: number, breaks = false) {
  const bytes = new TextEncoder().encode(text);
  let from = 0;
  const stream = new ReadableStream<Uint8Array>({
    pull(to) {
      if (from >= bytes.length) return breaks ? to.error(new TypeError("gone")) : to.close();
      to.enqueue(bytes.slice(from, from + at));
      from += at;
    },
  });
  vi.spyOn(api, "POST").mockResolvedValue({ data: stream, response: new Response(null) } as never);
}

const ask = (tell: (checked: number) => void = () => {}) =>
  assessed("counts", { lines: [] } as never, new AbortController().signal, tell);

afterEach(() => vi.restoreAllMocks());

describe("what is said of many lines", () => {
  it.each([1, 2, 3, 7, 1000])("comes whole however it is cut, here into pieces of %i bytes", async (at) => {
    answering(WORDS, at);
    const told: number[] = [];
    expect((await ask((checked) => told.push(checked))).lines).toEqual(LINES);
    expect(told).toEqual([120, 300]);
  });

  it("was not reached where it breaks off, with or without a word", async () => {
    answering('{"checked":120}\n{"lin', 5);
    await expect(ask()).rejects.toBeInstanceOf(Unreached);
    answering('{"checked":120}\n', 5, true);
    await expect(ask()).rejects.toBeInstanceOf(Unreached);
  });

  it("is a problem where the server says so", async () => {
    const response = new Response(null, { status: 400 });
    vi.spyOn(api, "POST").mockResolvedValue({ error: { detail: "Too many." }, response } as never);
    await expect(ask()).rejects.toEqual(new Problem(400, "Too many.", { detail: "Too many." }));
  });
});
