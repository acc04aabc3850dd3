import { expect, test } from "vitest";
import { clock, many, whole } from "./words";

test("a number below zero has a minus", () => {
  expect([whole(-250), whole(0), whole(44)]).toEqual(["−250", "0", "44"]);
});

test("one of a thing is one, and none are several", () => {
  expect([many(1, "ride"), many(0, "ride"), many(2, "try", "tries")]).toEqual([
    "1 ride",
    "0 rides",
    "2 tries",
  ]);
});

test("a time of day has no seconds, and none is a dash", () => {
  expect([clock("07:30:00"), clock(null)]).toEqual(["07:30", "–"]);
});
