import { beforeEach, describe, expect, it } from "vitest";
import { browser } from "../testing/given";
import { backAt, broughtTo, comeBack, setOut, type Visit } from "./visits";

describe("a visit", () => {
  const visit = (from: string, to: string): Visit => ({
    from,
    title: from,
    record: null,
    typed: { site: "QB" },
    column: "site",
    label: "Site",
    to,
    open: null,
  });

  beforeEach(() => {
    browser();
  });

  it("leads back the way it came, with what was made", () => {
    setOut(visit("samples", "sites"));
    setOut(visit("sites", "rivers"));
    expect(broughtTo("sites")).toBeUndefined();
    expect(broughtTo("rivers")?.from).toBe("sites");
    comeBack({ id: 7, words: "Quill" });
    expect(backAt("samples")).toBeUndefined();
    expect(backAt("sites")?.made).toEqual({ id: 7, words: "Quill" });
    expect(backAt("sites")).toBeUndefined();
    expect(broughtTo("sites")?.typed).toEqual({ site: "QB" });
    comeBack();
    expect(backAt("samples")?.made).toBeUndefined();
    expect(broughtTo("sites")).toBeUndefined();
  });
});
