import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { costWords } from "./draw";
import { swapped, visitsOf } from "./goes";
import { restOf } from "./herd";

const go = (slot: number, horse_id: string, cow_id: string) =>
  ({ slot, horse_id, cow_id }) as Schemas["GoOut"];

it("puts the goes of a horse together, and another cow into one slot", () => {
  const goes = [go(1, "a", "4"), go(2, "a", "7"), go(4, "b", "4")];
  expect(visitsOf(goes).map((visit) => visit.map((g) => g.slot))).toEqual([[1, 2], [4]]);
  expect(swapped(goes, 5, 2, "9")).toEqual([
    { horse_id: "a", cow_id: "4" },
    { horse_id: "a", cow_id: "9" },
    null,
    { horse_id: "b", cow_id: "4" },
    null,
  ]);
});

it("says what a change costs and how long a cow has rested", () => {
  expect(costWords(0)).toContain("as good as the best");
  expect(costWords(0.25)).toContain("0.25 of a go");
  expect(costWords(null)).toContain("breaks a rule");
  expect([0, 1, 5, null].map(restOf)).toEqual(["today", "yesterday", "5 days ago", "no work in 60 days"]);
});
