import { afterEach, expect, it, vi } from "vitest";
import { bringPicture } from "../model/pictures";
import { accept, changePassword, invited, sessionQuery, signIn } from "../people/session";
import { answered, asTried, type Finding, Problem, problem, tryDoors, Unreached } from "./client";

const response = (status: number) => ({ ok: status < 300, status }) as Response;
const came = (status: number, body: unknown) =>
  vi.stubGlobal("fetch", async () => ({ ...response(status), json: async () => body }));

afterEach(() => {
  vi.unstubAllGlobals();
  tryDoors(false);
});

it("has the data of an answer, and a problem in the server's own sentence", async () => {
  expect(await answered(Promise.resolve({ data: 7, response: response(200) }))).toBe(7);
  const error = { detail: "Depth is needed.", findings: [{ field: "depth" }], errors: [{ where: "x" }] };
  const refused = await answered<Problem>(Promise.resolve({ error, response: response(422) })).catch(
    (e): Problem => e,
  );
  expect(refused).toBeInstanceOf(Problem);
  expect(refused).toMatchObject({ message: "Depth is needed.", status: 422 });
  expect(refused.findings.map((each: Finding) => each.field)).toEqual(["depth"]);
  expect(refused.errors).toEqual([{ where: "x" }]);
});

it("knows no answer from a refusal: a lost line, a server that stops, and whoever must sign in again", async () => {
  await expect(answered(Promise.reject(new TypeError("failed")))).rejects.toBeInstanceOf(Unreached);
  for (const status of [401, 502, 503, 504]) expect(problem(status, {})).toBeInstanceOf(Unreached);
  for (const status of [400, 403, 404, 409, 412, 422, 500])
    expect(problem(status, {})).toBeInstanceOf(Problem);
});

it("says a sentence where the server said none, and shows nothing of what is no problem", () => {
  for (const body of [undefined, null, "<html>", 7, []])
    expect(problem(500, body).message).toBe("Weft could not do this. Try again.");
  expect(new Problem(500, "x").findings).toEqual([]);
});

it("lets an asking that was given up end as such", async () => {
  const given = new DOMException("given up", "AbortError");
  await expect(answered(Promise.reject(given))).rejects.toBe(given);
  await expect(answered(Promise.reject(new DOMException("late", "TimeoutError")))).rejects.toBeInstanceOf(
    Unreached,
  );
});

it("says in addresses that a door is tried", () => {
  expect(asTried("/api/x")).toBe("/api/x");
  tryDoors(true);
  expect(asTried("/api/x")).toBe("/api/x?try=yes");
  expect(asTried("/api/x?a=1")).toBe("/api/x?a=1&try=yes");
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

it("brings a picture, or says why it is not taken", async () => {
  vi.stubGlobal("document", { cookie: "" });
  came(201, { id: "p-1" });
  expect(await bringPicture("/api/pictures", new File(["x"], "x.png"))).toBe("p-1");
  came(413, { detail: "It is too large." });
  await expect(bringPicture("/api/pictures", new File(["x"], "x.png"))).rejects.toThrow("It is too large.");
});
