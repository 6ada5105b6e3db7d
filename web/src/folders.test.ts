import { expect, it } from "vitest";

const FILES = import.meta.glob(["./**/*.{ts,tsx}", "!./**/*.test.ts", "!./testing/**", "!./**/*.d.ts"], {
  query: "?raw",
  import: "default",
  eager: true,
}) as Record<string, string>;

const folder = (path: string) => path.split("/")[1] ?? "";

/** The folders that each folder imports from. */
function arrows(): Map<string, Set<string>> {
  const to = new Map<string, Set<string>>();
  for (const [path, text] of Object.entries(FILES)) {
    const from = folder(path);
    for (const [, target = ""] of text.matchAll(/(?:from|import)\s*\(?\s*"(\.[^"]+)"/g)) {
      const there = new URL(target, `file:/${path.slice(2)}`).pathname;
      const other = folder(there);
      // What stands in no folder, such as the page's entry, brings all of them together.
      if (path.split("/").length > 2 && other !== from) to.set(from, (to.get(from) ?? new Set()).add(other));
    }
  }
  return to;
}

/** The way from a folder back to itself; none where arrows only point down. */
function circle(to: Map<string, Set<string>>, at: string, way: string[]): string[] | undefined {
  if (way.includes(at)) return [...way.slice(way.indexOf(at)), at];
  for (const next of to.get(at) ?? []) {
    const found = circle(to, next, [...way, at]);
    if (found) return found;
  }
  to.delete(at); // Nothing from here leads back.
  return undefined;
}

it("No folder of the pages leads back to itself", () => {
  const to = arrows();
  expect(to.size).toBeGreaterThan(15);
  expect([...to.keys()].map((each) => circle(to, each, [])).find(Boolean)).toBeUndefined();
});
