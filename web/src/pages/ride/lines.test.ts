import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { blankLine, readLine, type Line } from "./lines";

const steps: Schemas["StepOut"][] = [
  { id: "S1", rung: "S1", name: "Flexion", gait: "stand", sides: ["left", "right"], needs: [] },
  { id: "S6@walk", rung: "S6", name: "Poll", gait: "walk", sides: ["both"], needs: [] },
];
const line = (more: Partial<Line>): Line => ({ ...blankLine(steps[0]), ...more });

it("turns counts into reps with ids of their own", () => {
  const [set] = readLine(line({ gave: "6", tried: "2", none: "1", weight: "egg", seconds: "1.5" }), 3, steps);
  expect(set).toMatchObject({ position: 3, rung: "S1", gait: "stand", side: "left" });
  expect(set?.reps.map((r) => r.outcome)).toEqual([...Array(6).fill("gave"), "tried", "tried", "none"]);
  expect(new Set(set?.reps.map((r) => r.id)).size).toBe(9);
  expect(set?.reps.every((r) => r.weight === "egg" && r.seconds === 1.5)).toBe(true);
});

it("takes a comma for the point, nothing for not measured, and never hides what is no number", () => {
  const seconds = (text: string) =>
    readLine(line({ gave: "1", seconds: text }), 0, steps)[0]?.reps[0]?.seconds;
  expect(seconds("1,4")).toBe(1.4);
  expect(seconds("  ")).toBeNull();
  expect(seconds("quick")).toBe(-1);
});

it("leaves out lines with nothing in them and keeps the side of a rung of both reins", () => {
  expect(readLine(line({}), 0, steps)).toEqual([]);
  const poll = blankLine(steps[1]);
  expect(readLine({ ...poll, gave: "2" }, 0, steps)[0]).toMatchObject({
    rung: "S6",
    gait: "walk",
    side: "both",
  });
});
