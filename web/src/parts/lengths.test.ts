import { expect, test } from "vitest";
import { lengthIn, metresOf, unitOfLength } from "./lengths";

test("a foot is 0.3048 m (international foot, 1959), and what is typed comes back", () => {
  expect([unitOfLength("imperial"), unitOfLength("metric")]).toEqual(["ft", "m"]);
  expect(metresOf("imperial", 100)).toBeCloseTo(30.48, 9);
  expect(lengthIn("imperial", 30.48)).toBeCloseTo(100, 9);
  expect(metresOf("metric", 60)).toBe(60);
  expect(metresOf("imperial", null)).toBeNull();
});
