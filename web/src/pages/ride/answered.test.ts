import { expect, it } from "vitest";
import { answered } from "./answered";
import { aCheck, aPlan } from "./plan.fixture";

const plan = aPlan({
  checks: [aCheck("teeth", { must: true }), aCheck("tack"), aCheck("stop", { sides: ["left", "right"] })],
  waits_for: ["teeth"],
});

it("lays an answer over the plan, and the ride waits no longer once it holds", () => {
  const not = answered(plan, "teeth", "both", "not", "", "Ada");
  expect(not.waits_for).toEqual(["teeth"]);
  const well = answered(not, "teeth", "both", "well", "", "Ada");
  expect(well.waits_for).toEqual([]);
  expect(well.checks[0]?.answers).toEqual([{ side: "both", answer: "well", words: "", who: "Ada" }]);
});

it("takes an overrule with its words, and answers each side for itself", () => {
  const over = answered(plan, "teeth", "both", "overruled", "halter only", "Ada");
  expect(over.waits_for).toEqual([]);
  const left = answered(over, "stop", "left", "well", "", "Bea");
  const both = answered(left, "stop", "right", "not", "", "Bea");
  expect(both.checks[2]?.answers.map((a) => [a.side, a.answer])).toEqual([
    ["left", "well"],
    ["right", "not"],
  ]);
  expect(both.waits_for).toEqual([]);
});
