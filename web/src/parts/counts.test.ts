import { expect, test } from "vitest";
import { blankDraft, countOf, draftOf, endedWell, shortly, type Count } from "./counts";

const all: [Count, string, boolean][] = [
  [{ kind: "laps", laps: 3, soft: true }, "3 laps", true],
  [{ kind: "laps", laps: 1, soft: false }, "1 lap, stiff", false],
  [{ kind: "nose-ups", circles: 1, ups: 0 }, "0 ups", true],
  [{ kind: "nose-ups", circles: 4, ups: 1 }, "1 in 4", false],
  [{ kind: "set-ups", asked: 1, accepted: 0 }, "went", false],
  [{ kind: "set-ups", asked: 6, accepted: 6 }, "6 of 6", true],
  [{ kind: "mounts", mounts: 1, loose: 1 }, "loose", true],
  [{ kind: "mounts", mounts: 12, loose: 10 }, "10 of 12", false],
  [{ kind: "rein-share", bridle: 30, soft: false }, "30%, stiff", false],
  [{ kind: "held", seconds: 12, lost: false }, "12 s", true],
  [{ kind: "held", seconds: 3, lost: true }, "3 s, lost", false],
  [{ kind: "steps", steps: 7, broke: true }, "7 steps, wrong", false],
  [{ kind: "tries", tries: ["looks", "crosses"] }, "looks, crosses", true],
];

test.each(all)("%o is typed, read and shown", (count, says, well) => {
  expect(countOf(count.kind, draftOf(count))).toEqual(count);
  expect(shortly(count)).toBe(says);
  expect(endedWell(count)).toBe(well);
});

test("what was not typed is no count, and half of a pair is not either", () => {
  for (const [{ kind }] of all) expect(countOf(kind, blankDraft)).toBeNull();
  expect(countOf("set-ups", { ...blankDraft, n: "3" })).toBeNull();
});
