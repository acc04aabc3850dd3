import { expect, test } from "vitest";
import type { Schemas } from "../../api/client";
import { repsOf, type TappedSet } from "./tapped-set";

const step: Schemas["StepOut"] = {
  id: "S1",
  rung: "S1",
  name: "Flexion",
  gait: "stand",
  sides: ["left", "right"],
  needs: [],
};
const sixOfEight: TappedSet = {
  side: "left",
  gave: 6,
  tried: 0,
  none: 2,
  weight: "egg",
  seconds: 1.5,
  faults: ["braces"],
};
const reps = (set: TappedSet) =>
  repsOf(
    { reps: [], drafts: [], counted: [] },
    step,
    set,
    { riderId: null, cow: null },
    "2026-11-27T16:00:00Z",
  );

test("six of eight at an egg are eight reps of one set, the fault on the first that was not whole", () => {
  const all = reps(sixOfEight);
  expect(all.map((r) => r.outcome)).toEqual([...Array<string>(6).fill("gave"), "none", "none"]);
  expect(all.every((r) => r.weight === "egg" && r.seconds === 1.5)).toBe(true);
  expect(all.flatMap((r) => r.faults.map(() => r.position))).toEqual([6]);
  expect(new Set(all.map((r) => r.set.id)).size).toBe(1);
  expect(new Set(all.map((r) => r.id)).size).toBe(8);
  expect(all[0]?.set).toMatchObject({ rung: "S1", gait: "stand", side: "left" });
});

test("a fault of a set that was all whole goes to its first ask", () => {
  const all = reps({ ...sixOfEight, gave: 3, none: 0, seconds: null, faults: ["leans"] });
  expect(all.map((r) => r.faults)).toEqual([["leans"], [], []]);
});
