import { afterEach, expect, it, vi } from "vitest";
import { came } from "../testing/given";
import { bringPicture } from "./pictures";

afterEach(() => {
  vi.unstubAllGlobals();
});

it("brings a picture, or says why it is not taken", async () => {
  vi.stubGlobal("document", { cookie: "" });
  came(201, { id: "p-1" });
  expect(await bringPicture("/api/pictures", new File(["x"], "x.png"))).toBe("p-1");
  came(413, { detail: "It is too large." });
  await expect(bringPicture("/api/pictures", new File(["x"], "x.png"))).rejects.toThrow("It is too large.");
});
