import { answered, api, type BatchAsked, type BatchAssessed, Unreached } from "../api/client";

/** What is to be said of many lines; `tell` hears how many are checked while it goes on. */
export async function assessed(
  door: string,
  body: BatchAsked,
  signal: AbortSignal,
  tell: (checked: number) => void,
): Promise<BatchAssessed> {
  const stream = await answered(
    api.POST("/api/doors/{door}/batches/assess/progress", {
      params: { path: { door } },
      body,
      signal,
      parseAs: "stream",
    }),
  );
  let rest = "";
  for await (const part of texts(stream as ReadableStream<Uint8Array>)) {
    const lines = (rest + part).split("\n");
    rest = lines.pop() ?? "";
    for (const line of lines) {
      const told = JSON.parse(line) as { checked: number } | BatchAssessed;
      if ("lines" in told) return told;
      tell(told.checked);
    }
  }
  // It broke off.
  throw new Unreached();
}

async function* texts(stream: ReadableStream<Uint8Array>): AsyncGenerator<string> {
  const reader = stream.getReader();
  const decoder = new TextDecoder();
  for (let part = await read(reader); part; part = await read(reader))
    yield decoder.decode(part, { stream: true });
}

async function read(reader: ReadableStreamDefaultReader<Uint8Array>): Promise<Uint8Array | undefined> {
  try {
    return (await reader.read()).value;
  } catch (e) {
    if (e instanceof DOMException && e.name === "AbortError") throw e;
    throw new Unreached();
  }
}
