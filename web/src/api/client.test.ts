import { afterEach, expect, it } from "vitest";
import { answered, asTried, type Finding, Problem, problem, tryDoors, Unreached } from "./client";

const response = (status: number) => ({ ok: status < 300, status }) as Response;

afterEach(() => tryDoors(false));

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
  expect(problem(401, {}).message).toBe("You are signed out.");
  expect(problem(503, {}).message).toBe("No connection.");
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
