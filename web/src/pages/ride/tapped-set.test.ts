import { expect, test } from "vitest";
import { repsOf } from "./tapped-set";

const step = {
  id: "S1",
  rung: "S1",
  name: "Flexion",
  gait: "stand",
  sides: ["left", "right"],
  needs: [],
} as const;
const empty = { reps: [], drafts: [], counted: [] };
const at = "2026-11-27T16:00:00Z";

test("six of eight at an egg are eight reps of one set, the fault on the first that was not whole", () => {
  const tapped = { side: "left", asks: 8, gave: 6, weight: "egg", seconds: 1.5, faults: ["braces"] } as const;
  const reps = repsOf(
    empty,
    { ...step, sides: [...step.sides], needs: [] },
    { ...tapped, faults: ["braces"] },
    { riderId: null, cow: null },
    at,
  );
  expect(reps.map((r) => r.outcome)).toEqual([...Array<string>(6).fill("gave"), "none", "none"]);
  expect(reps.map((r) => r.seconds)).toEqual([...Array<number>(6).fill(1.5), null, null]);
  expect(reps.flatMap((r) => r.faults.map(() => r.position))).toEqual([6]);
  expect(new Set(reps.map((r) => r.set.id)).size).toBe(1);
  expect(new Set(reps.map((r) => r.id)).size).toBe(8);
  expect(reps[0]?.set).toMatchObject({ rung: "S1", gait: "stand", side: "left" });
});

test("a fault of a set that was all whole goes to its last ask", () => {
  const tapped = {
    side: "right" as const,
    asks: 3,
    gave: 3,
    weight: "egg" as const,
    seconds: null,
    faults: ["leans"],
  };
  const reps = repsOf(
    empty,
    { ...step, sides: [...step.sides], needs: [] },
    tapped,
    { riderId: null, cow: null },
    at,
  );
  expect(reps.map((r) => r.faults)).toEqual([[], [], ["leans"]]);
});
