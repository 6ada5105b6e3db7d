import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { after, chance, pass } from "../testing/given";
import { QuickLines } from "./quickLines";

/** A Bench whose answers take as long as that says. Lines with a question mark are not understood. */
function given(delay: () => number = () => 10) {
  const form: string[] = [];
  // What was made last is selected.
  let selected: string | undefined;
  const lines = new QuickLines();
  const box = { chosen: false, there: true };
  lines.take({
    read: async (line) => {
      await after(delay());
      return line.includes("?") ? { unclear: "It is not understood." } : { unclear: null };
    },
    make: async (line, place) => {
      await after(delay());
      form.splice(place === undefined ? form.length : form.indexOf(place) + 1, 0, line);
      selected = line;
      return line;
    },
    place: () => selected,
    back: () => {
      box.chosen = box.there;
      return box.there;
    },
    say: () => {},
    busy: () => {},
  });
  /** A key goes over what is chosen, else to the end. */
  const key = (letter: string) => {
    lines.type(box.chosen ? letter : lines.snapshot().line + letter);
    box.chosen = false;
  };
  const enter = () => lines.add(lines.snapshot().line);
  return { form, lines, box, key, enter };
}

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

/** Types such lines without waiting, on a Bench whose answers take up to three seconds. */
async function stream(seed: number) {
  const random = chance(seed);
  const { form, lines, key, enter } = given(() => random() * 3_000);
  const typed = Array.from({ length: 2 + random() * 6 }, (_, n) =>
    random() < 0.2 ? `What ${n}?` : `Field ${n}${random() < 0.3 ? ", whole" : ""}`,
  );
  for (const line of typed) {
    for (const letter of line) {
      key(letter);
      if (random() < 0.2) await pass(random() * 400);
    }
    enter();
    if (random() < 0.3) await pass(random() * 4_000);
  }
  await pass(60_000);
  const { line, left } = lines.snapshot();
  return { typed, form, unclear: [...left.map(({ text }) => text), ...(line ? [line] : [])] };
}

it("makes every line that is typed, in order, at whatever speed", async () => {
  for (let seed = 0; seed < 300; seed++) {
    const { typed, form, unclear } = await stream(seed);
    const clear = (each: string) => !each.includes("?");
    expect(form, `stream ${seed}`).toEqual(typed.filter(clear));
    // What is not understood is all there, below the box or, the last of them, in it.
    expect(unclear, `stream ${seed}`).toEqual(typed.filter((each) => !clear(each)));
  }
});

it("brings a line that is not understood back into the box, and keeps it when it is typed over", async () => {
  const { lines, key, enter } = given();
  for (const letter of "Why?") key(letter);
  enter();
  expect(lines.snapshot().line).toBe("");
  await pass(100);
  expect(lines.snapshot()).toEqual({ line: "Why?", left: [] });
  key("S");
  key("i");
  expect(lines.snapshot()).toEqual({ line: "Si", left: [{ text: "Why?", why: "It is not understood." }] });
  lines.again("Why?");
  expect(lines.snapshot()).toEqual({ line: "Why?", left: [{ text: "Si", why: "It is not added yet." }] });
});

it("lets a line that came back be put right where it stands", async () => {
  const { form, lines, key, enter } = given();
  for (const letter of "Why?") key(letter);
  enter();
  await pass(100);
  lines.type("Why");
  enter();
  await pass(100);
  expect(form).toEqual(["Why"]);
  expect(lines.snapshot()).toEqual({ line: "", left: [] });
});

it("keeps what could not be made, and goes on with the next", async () => {
  const { form, lines } = given();
  const make = vi.fn(async (line: string) => {
    if (make.mock.calls.length === 1) throw new Error("No connection to Weft.");
    form.push(line);
    return line;
  });
  lines.take({
    read: async () => ({ unclear: null }),
    make,
    place: () => undefined,
    back: () => true,
    say: () => {},
    busy: () => {},
  });
  lines.type("One");
  lines.add("One");
  lines.type("Two");
  lines.add("Two");
  await pass(100);
  expect(form).toEqual(["Two"]);
  expect(lines.snapshot().left).toEqual([{ text: "One", why: "No connection to Weft." }]);
});

it("leaves a line that is refused after its box is gone to be found when it is there again", async () => {
  const { lines, box, key, enter } = given();
  for (const letter of "Why?") key(letter);
  enter();
  box.there = false;
  await pass(100);
  expect(lines.snapshot()).toEqual({ line: "", left: [{ text: "Why?", why: "It is not understood." }] });
});
