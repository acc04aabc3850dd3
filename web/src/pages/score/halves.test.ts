import { expect, it } from "vitest";
import { halvesSay, scoreSays, totalOf } from "./halves";

it("writes halves of a point as judges do", () => {
  expect([141, -3, 1, -1, 0, 2, -140].map(halvesSay)).toEqual(["70½", "−1½", "½", "−½", "0", "1", "−70"]);
  expect([3, 0, -2].map(scoreSays)).toEqual(["+1½", "0", "−1"]);
});

it("begins at seventy and takes penalties off", () => {
  const marks = [{ score: 1 }, { score: -2, penalties: [1, 10] }, { score: null, penalties: [] }];
  expect(halvesSay(totalOf(marks))).toBe("64");
});
