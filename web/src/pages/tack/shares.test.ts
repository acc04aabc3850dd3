import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { shareDraft } from "./share-form";
import { steps } from "./share-strip";

const ride: Schemas["SharedRideOut"] = {
  ride_id: "r",
  on: "2026-03-02",
  seconds: 2400,
  begins: 10,
  moves: [
    { at: 600, bridle: 30, asked: "bears" },
    { at: 1800, bridle: 20, asked: null },
  ],
  mean: 0.22,
  more: 1,
  less: 0,
  version: 1,
};

it("draws a share as it moved: level until it moves, then straight up or down", () => {
  expect(steps(ride)).toEqual([
    [0, 10],
    [600, 10],
    [600, 30],
    [1800, 30],
    [1800, 20],
    [2400, 20],
  ]);
  expect(steps({ ...ride, moves: [] })).toEqual([
    [0, 10],
    [2400, 10],
  ]);
});

it("begins with what was noted, else with the share that comes next", () => {
  expect(shareDraft(ride, 60)).toEqual({
    minutes: "40",
    begins: "10",
    moves: [
      { minute: "10", bridle: "30", asked: "bears" },
      { minute: "30", bridle: "20", asked: "" },
    ],
  });
  expect(shareDraft(undefined, 60)).toEqual({ minutes: "40", begins: "60", moves: [] });
});
