import { expect, test } from "vitest";
import type { Schemas } from "../../api/client";
import { daysSince, sorted } from "./sorted";

const horse = (name: string, more: Partial<Schemas["OverviewHorse"]>): Schemas["OverviewHorse"] => ({
  id: name,
  name,
  foaled: null,
  owner_id: null,
  ladder: null,
  subject: null,
  call: null,
  why: "",
  last_ridden: null,
  stiff: null,
  next: null,
  ...more,
});

const horses = [
  horse("Wren", {
    call: "look-at",
    last_ridden: "2026-11-20",
    next: { date: "2026-12-03", kind: null, title: "Ride" },
  }),
  horse("Biscuit", { call: "advance", stiff: "left", last_ridden: "2026-11-26" }),
  horse("Larkspur", {}),
  horse("Dusk", {
    call: "hold",
    last_ridden: "2026-11-26",
    next: { date: "2026-11-27", kind: null, title: "Ride" },
  }),
];
const names = (by: Parameters<typeof sorted>[1], down = false) => sorted(horses, by, down).map((h) => h.name);

test("horses are sorted by any column, those without anything there last", () => {
  expect(names("name")).toEqual(["Biscuit", "Dusk", "Larkspur", "Wren"]);
  expect(names("call")).toEqual(["Wren", "Dusk", "Biscuit", "Larkspur"]);
  expect(names("ridden")).toEqual(["Wren", "Biscuit", "Dusk", "Larkspur"]);
  expect(names("ridden", true)).toEqual(["Biscuit", "Dusk", "Wren", "Larkspur"]);
  expect(names("next")).toEqual(["Dusk", "Wren", "Biscuit", "Larkspur"]);
  expect(names("stiff", true)[0]).toBe("Biscuit");
});

test("days since a ride are whole days, and none for a horse that was never ridden", () => {
  expect(daysSince(horse("Wren", { last_ridden: "2026-11-20" }), "2026-11-27")).toBe(7);
  expect(daysSince(horse("Larkspur", {}), "2026-11-27")).toBeNull();
});
