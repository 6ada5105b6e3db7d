import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { after, chance, pass } from "../../testing/given";
import { QuickLines } from "../quickLines";
import { Turns } from "../turns";
import type { Came, Read } from "./reading";
import { RuleLines } from "./ruleLines";

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

/** A Bench whose answers take as long as that says: a rule `about X` is understood once there is a field X. */
function given(delay: () => number) {
  const fields: string[] = [];
  const rules: string[] = [];
  const box = { chosen: false };
  const turns = new Turns(async () => {});
  const quick = new QuickLines();
  quick.take({
    read: async () => {
      await after(delay());
      return { unclear: null };
    },
    make: async (line) => {
      await after(delay());
      fields.push(line);
      return line;
    },
    place: () => undefined,
    back: () => true,
    say: () => {},
    busy: (made) => turns.field(made),
  });
  const read = (line: string): Read => {
    const known = fields.includes(line.replace("about ", ""));
    return {
      line,
      rule: known ? { part: "checks" } : null,
      said: null,
      unclear: known ? null : "No such field.",
      at: 0,
    } as unknown as Read;
  };
  const lines = new RuleLines();
  const came = (text: string) =>
    ({ read: text.split("\n").filter(Boolean).map(read), offers: [] }) as unknown as Came;
  lines.take({
    read: async (text) => {
      await after(delay());
      return came(text);
    },
    settled: turns.settled,
    make: async (all) => {
      await after(delay());
      const clear = all.filter(({ unclear }) => !unclear);
      rules.push(...clear.map(({ line }) => line));
      return all.filter(({ unclear }) => unclear);
    },
    busy: (made) => turns.rule(made),
    say: () => {},
    choose: () => {
      box.chosen = true;
    },
    end: () => {
      box.chosen = false;
    },
  });
  /** Types a rule over what is chosen, else in an empty box, and presses Enter. */
  const rule = (text: string) => {
    lines.type(box.chosen ? text : lines.snapshot().text + text);
    box.chosen = false;
    lines.enter(came(lines.snapshot().text));
  };
  const field = (text: string) => {
    quick.type(text);
    quick.add(text);
  };
  const refused = () => {
    const { text, left } = lines.snapshot();
    return [...left.map(({ line }) => line), ...(text ? [text] : [])];
  };
  return { fields, rules, lines, field, rule, refused, turns };
}

it("makes every rule of every field that was typed before it, at whatever speed", async () => {
  for (let seed = 0; seed < 500; seed++) {
    const random = chance(seed);
    const { fields, rules, field, rule, refused, turns } = given(() => random() * 3_000);
    const typed = Array.from({ length: 1 + random() * 5 }, (_, n) => `F${n}`);
    const good: string[] = [];
    const bad: string[] = [];
    for (const [n, name] of typed.entries()) {
      field(name);
      if (random() < 0.3) await pass(random() * 4_000);
      // What was refused and stands in the box is chosen only by the next Enter: a keyer looks up first.
      if (random() < 0.7) {
        rule(`about ${name}`);
        good.push(`about ${name}`);
      }
      if (n === typed.length - 1 && random() < 0.5) {
        rule("about Nothing");
        bad.push("about Nothing");
      }
    }
    let over = false;
    turns.over().then(() => {
      over = rules.length === good.length && fields.length === typed.length;
    });
    await pass(120_000);
    expect([seed, fields, rules, refused(), over]).toEqual([seed, typed, good, bad, true]);
  }
});

it("leaves what is refused where another is typed by then, and puts it into the line again", async () => {
  const { lines, rule, refused, field } = given(() => 100);
  rule("about Site");
  lines.type("ab");
  await pass(1_000);
  expect(lines.snapshot()).toMatchObject({ text: "ab", left: [{ line: "about Site" }] });
  field("Site");
  await pass(1_000);
  lines.again("about Site");
  expect(lines.snapshot()).toMatchObject({ text: "about Site", left: [{ line: "ab" }] });
  lines.enter();
  await pass(1_000);
  expect(refused()).toEqual(["ab"]);
});
