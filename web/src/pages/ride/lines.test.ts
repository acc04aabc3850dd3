import { expect, it } from "vitest";
import { Refused, type Schemas } from "../../api/client";
import { blankDraft } from "../../parts/counts";
import { blankLine, readLines, type Line } from "./lines";

const steps: Schemas["StepOut"][] = [
  { id: "S1", rung: "S1", name: "Flexion", gait: "stand", sides: ["left", "right"], needs: [] },
  { id: "S6@walk", rung: "S6", name: "Poll", gait: "walk", sides: ["both"], needs: [] },
  { id: "R2@walk", rung: "R2", name: "Circle", gait: "walk", sides: ["left", "right"], needs: [] },
];
const rungs = [
  { id: "S1", measure: { kind: "reps" } },
  { id: "S6", measure: { kind: "reps" } },
  { id: "R2", measure: { kind: "laps", most: 2 } },
] as Schemas["RungOut"][];
const book = { steps, rungs };
const line = (more: Partial<Line>): Line => ({ ...blankLine(steps[0]), ...more });

it("turns counts into reps with ids of their own", () => {
  const [set] = readLines([line({ gave: "6", tried: "2", none: "1", weight: "egg", seconds: "1.5" })], book);
  expect(set).toMatchObject({ position: 0, rung: "S1", gait: "stand", side: "left" });
  expect(set?.reps?.map((r) => r.outcome)).toEqual([...Array(6).fill("gave"), "tried", "tried", "none"]);
  expect(new Set(set?.reps?.map((r) => r.id)).size).toBe(9);
  expect(set?.reps?.every((r) => r.weight === "egg" && r.seconds === 1.5)).toBe(true);
});

it("gives the same reps when it is read again, and other ones to another line", () => {
  const lines = [line({ gave: "3" }), line({ gave: "3", side: "right" })];
  expect(readLines(lines, book)).toEqual(readLines(lines, book));
  const ids = readLines(lines, book).flatMap((s) => s.reps?.map((r) => r.id) ?? []);
  expect(new Set(ids).size).toBe(6);
  const shape = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;
  expect(ids.every((id) => shape.test(id))).toBe(true);
});

it("takes a comma for the point, nothing for not measured, and names the set whose seconds are no number", () => {
  const seconds = (text: string) =>
    readLines([line({ gave: "1", seconds: text })], book)[0]?.reps?.[0]?.seconds;
  expect(seconds("1,4")).toBe(1.4);
  expect(seconds("  ")).toBeNull();
  const lines = [line({}), line({ gave: "1" }), line({ gave: "1", seconds: "quick" })];
  const refused = (() => {
    try {
      return readLines(lines, book);
    } catch (e) {
      return e;
    }
  })();
  expect(refused).toBeInstanceOf(Refused);
  expect((refused as Refused).field("sets[1].seconds")).toBe("“quick” is not a number");
});

it("leaves out lines with nothing in them and keeps the side of a rung of both reins", () => {
  expect(readLines([line({})], book)).toEqual([]);
  const poll = { ...blankLine(steps[1]), gave: "2" };
  const [set, ...others] = readLines([line({}), poll], book);
  expect(set).toMatchObject({ position: 0, rung: "S6", gait: "walk", side: "both" });
  expect(others).toEqual([]);
});

it("gives the fault of a set to its first rep that was not whole, else to the first", () => {
  const faults = (more: Partial<Line>) =>
    readLines([line({ fault: "leans", ...more })], book)[0]?.reps?.map((r) => r.faults?.length);
  expect(faults({ gave: "2", tried: "1", none: "1" })).toEqual([0, 0, 1, 0]);
  expect(faults({ gave: "2" })).toEqual([1, 0]);
});

it("reads a rung that is counted otherwise in its own numbers", () => {
  const laps = (n: string) => ({ ...line({ step: "R2@walk" }), count: { ...blankDraft, n, good: false } });
  const [set] = readLines([laps(""), { ...laps("3"), fault: "falls-in", gave: "4" }], book);
  expect(set).toMatchObject({ position: 0, rung: "R2", gait: "walk", side: "left" });
  expect(set?.counted).toEqual({ count: { kind: "laps", laps: 3, soft: false }, faults: ["falls-in"] });
  expect(set?.reps).toBeUndefined();
});
