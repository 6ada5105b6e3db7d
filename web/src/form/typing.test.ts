import { expect, it } from "vitest";
import { full, shaped, tidy } from "./typing";

it("puts in the signs of a shape where they were not typed, and takes them where they were", () => {
  expect(shaped("AB-12", "qb03")).toBe("qb-03");
  expect(shaped("AB-12", "qb-03")).toBe("qb-03");
  expect(shaped("(12) 34", "1234")).toBe("(12) 34");
  expect(shaped("AB-12", "qb")).toBe("qb");
});

it("leaves what does not fit the shape as it was typed", () => {
  for (const text of ["qb-0x", "1", "qb-034", "q-", "qb--0"]) expect(shaped("AB-12", text)).toBe(text);
});

it("typed key by key, comes to the same as typed at once, with or without its signs", () => {
  let shapes = [""];
  for (let length = 1; length <= 5; length++) {
    shapes = shapes.flatMap((shape) => ["A", "9", "-", " ", "("].map((slot) => shape + slot));
    for (const shape of shapes) {
      const keys = { shape, capitals: true };
      const whole = shape
        .replaceAll("A", "X")
        .replaceAll("9", "4")
        .replace(/[^X4]+$/, "");
      for (const typed of [whole.toLowerCase(), whole.toLowerCase().replace(/[^x4]/g, "")]) {
        const text = [...typed].reduce((before, key) => tidy(keys, before, before + key), "");
        expect([shape, text, tidy(keys, "", typed)]).toEqual([shape, whole, whole]);
      }
    }
  }
});

it("is not shaped while it is taken back or changed in its midst", () => {
  expect(tidy({ shape: "AB-12" }, "qb-03", "qb-0")).toBe("qb-0");
  expect(tidy({ shape: "AB-12" }, "qb-", "qb")).toBe("qb");
  expect(tidy({ shape: "AB-12" }, "qb03", "qbx03", false)).toBe("qbx03");
  expect(tidy({ capitals: true }, "Qb", "xQb", false)).toBe("XQB");
});

it("is full once, when it becomes so long", () => {
  expect(full({ goesOnAfter: 3 }, "12", "123")).toBe(true);
  expect(full({ goesOnAfter: 3 }, "", "12345")).toBe(true);
  expect(full({ goesOnAfter: 3 }, "123", "1234")).toBe(false);
  expect(full({ goesOnAfter: 3 }, "1234", "123")).toBe(false);
  expect(full({ goesOnAfter: 0 }, "", "1")).toBe(false);
});
