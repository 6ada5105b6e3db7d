import { beforeEach, expect, it } from "vitest";
import type { Door } from "../api/client";
import { used } from "../entry/used";
import { browser } from "../testing/given";
import { found, inOrder, type Listed } from "./order";

beforeEach(() => {
  browser();
});

const door = (id: string, title: string, form = id): Door =>
  ({ id, title, form, formTitle: title, table: form }) as Door;
const titles = (listed: Listed[]) => listed.map(({ title }) => title);
const DOORS = [
  door("sites", "Sites"),
  door("kit", "Kit"),
  { ...door("here", "Incidents at Quill Beck", "incidents"), formTitle: "Incidents" },
  { ...door("incidents", "Everything"), formTitle: "Incidents" },
];

it("has the doors one was at last first, then the others by title", () => {
  used("sites", 0, 1_000);
  used("kit", 2, 2_000);
  const { last, all } = inOrder(DOORS);
  expect(titles(last)).toEqual(["Kit", "Sites"]);
  expect(titles(all)).toEqual(["Incidents", "Incidents at Quill Beck"]);
});

it("finds a door by the beginnings of its words, and then by any part of them, its form or its table", () => {
  const { all } = inOrder(DOORS);
  expect(titles(found(all, "qu be"))).toEqual(["Incidents at Quill Beck"]);
  expect(titles(found(all, "IT"))).toEqual(["Kit", "Sites"].filter((each) => /it/i.test(each)));
  expect(titles(found(all, "in"))).toEqual(["Incidents", "Incidents at Quill Beck"]);
  expect(found(all, "heron")).toEqual([]);
  expect(found(all, " ")).toHaveLength(4);
});
