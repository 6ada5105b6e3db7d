import { afterEach, expect, it, vi } from "vitest";
import { Unreached } from "../api/client";
import { came } from "../testing/given";
import { accept, changePassword, invited, sessionQuery, signIn } from "./session";

afterEach(() => {
  vi.unstubAllGlobals();
});

it("signs in, or says why not at once", async () => {
  vi.stubGlobal("document", { cookie: "XSRF-TOKEN=a%20b" });
  came(200, { person: { name: "odile" } });
  expect(await signIn("odile", "river")).toEqual({ name: "odile" });
  came(401, { detail: "That is not the password." });
  await expect(signIn("odile", "x")).rejects.toThrow("That is not the password.");
  came(400, { detail: "No.", errors: [{ where: "password", message: "Eight characters at least." }] });
  await expect(accept("s", { password: "x" })).rejects.toThrow("Eight characters at least.");
  await expect(changePassword("a", "b")).rejects.toThrow("Eight characters at least.");
  await expect(invited("s")).rejects.toThrow("No.");
  vi.stubGlobal("fetch", async () => {
    throw new TypeError("failed");
  });
  await expect(signIn("odile", "river")).rejects.toBeInstanceOf(Unreached);
});

it("takes a session that is none for an answer, and a server that fails for none", async () => {
  vi.stubGlobal("document", { cookie: "" });
  const ask = () => (sessionQuery.queryFn as () => Promise<unknown>)();
  came(401, { empty: true });
  expect(await ask()).toEqual({ empty: true });
  came(500, {});
  await expect(ask()).rejects.toBeInstanceOf(Unreached);
});
