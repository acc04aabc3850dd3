import { expect, test } from "vitest";
import { Refused } from "../api/client";
import { numbers } from "./numbers";

test("numbers are read with point or comma, and nothing is nothing", () => {
  expect(numbers({ seconds: " 1.5 ", share: "0,8", days: "3", least: "  " })).toEqual({
    seconds: 1.5,
    share: 0.8,
    days: 3,
    least: null,
  });
  expect(numbers({ celsius: "-4", zero: "0" })).toEqual({ celsius: -4, zero: 0 });
});

test("what is no number is named by its field, and never read as nothing", () => {
  let told: unknown;
  try {
    numbers({ seconds: "abc", share: "80", days: "two" });
  } catch (error) {
    told = error;
  }
  expect(told).toBeInstanceOf(Refused);
  const refused = told as Refused;
  expect(refused.field("seconds")).toBe("“abc” is not a number");
  expect(refused.field("days")).toBe("“two” is not a number");
  expect(refused.field("share")).toBeUndefined();
  for (const text of ["1.5.2", "Infinity", "1 2", "NaN", "1,2,3"])
    expect(() => numbers({ it: text }), text).toThrow(`“${text}” is not a number`);
});
