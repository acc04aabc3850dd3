import { expect, it } from "vitest";
import { Refused, type Schemas } from "../../api/client";
import { blankLine, readLines, type Line } from "./lines";

const steps: Schemas["StepOut"][] = [
  { id: "S1", rung: "S1", name: "Flexion", gait: "stand", sides: ["left", "right"], needs: [] },
  { id: "S6@walk", rung: "S6", name: "Poll", gait: "walk", sides: ["both"], needs: [] },
];
const line = (more: Partial<Line>): Line => ({ ...blankLine(steps[0]), ...more });

it("turns counts into reps with ids of their own", () => {
  const [set] = readLines([line({ gave: "6", tried: "2", none: "1", weight: "egg", seconds: "1.5" })], steps);
  expect(set).toMatchObject({ position: 0, rung: "S1", gait: "stand", side: "left" });
  expect(set?.reps.map((r) => r.outcome)).toEqual([...Array(6).fill("gave"), "tried", "tried", "none"]);
  expect(new Set(set?.reps.map((r) => r.id)).size).toBe(9);
  expect(set?.reps.every((r) => r.weight === "egg" && r.seconds === 1.5)).toBe(true);
});

it("gives the same reps when it is read again, and other ones to another line", () => {
  const lines = [line({ gave: "3" }), line({ gave: "3", side: "right" })];
  expect(readLines(lines, steps)).toEqual(readLines(lines, steps));
  const ids = readLines(lines, steps).flatMap((s) => s.reps.map((r) => r.id));
  expect(new Set(ids).size).toBe(6);
  const shape = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;
  expect(ids.every((id) => shape.test(id))).toBe(true);
});

it("takes a comma for the point, nothing for not measured, and names the set whose seconds are no number", () => {
  const seconds = (text: string) =>
    readLines([line({ gave: "1", seconds: text })], steps)[0]?.reps[0]?.seconds;
  expect(seconds("1,4")).toBe(1.4);
  expect(seconds("  ")).toBeNull();
  const lines = [line({}), line({ gave: "1" }), line({ gave: "1", seconds: "quick" })];
  const refused = (() => {
    try {
      return readLines(lines, steps);
    } catch (e) {
      return e;
    }
  })();
  expect(refused).toBeInstanceOf(Refused);
  expect((refused as Refused).field("sets[1].seconds")).toBe("“quick” is not a number");
});

it("leaves out lines with nothing in them and keeps the side of a rung of both reins", () => {
  expect(readLines([line({})], steps)).toEqual([]);
  const poll = { ...blankLine(steps[1]), gave: "2" };
  const [set, ...others] = readLines([line({}), poll], steps);
  expect(set).toMatchObject({ position: 0, rung: "S6", gait: "walk", side: "both" });
  expect(others).toEqual([]);
});
