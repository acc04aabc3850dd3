import { describe, expect, it } from "vitest";
import { cornersOf } from "./fences";
import { speeds } from "./speed-strip";
import { reached, strideMarks } from "./use-playback";

const points = [0, 1, 2, 3, 4].map((n) => [n, 0, n, 1, n * n]);

describe("a run", () => {
  it("is at the last point that the clock has passed", () => {
    expect([0, 0.9, 1, 8.9, 9, 99].map((t) => reached(points, t))).toEqual([0, 0, 1, 2, 3, 4]);
  });

  it("ticks once a stride", () => {
    expect(strideMarks(points, 1.5).map((p) => p[2])).toEqual([2, 3]);
    expect(strideMarks(points, 1)).toHaveLength(4);
  });

  it("tells the speed of a track over most of a second", () => {
    // Four metres a second, ten times a second.
    const track = Array.from({ length: 50 }, (_, n) => [0.4 * n, 0, 0.1 * n]);
    const told = speeds(track);
    expect(told.length).toBeGreaterThan(4);
    told.forEach(([, v]) => expect(v).toBeCloseTo(4, 6));
  });

  it("has fences of an oval as wide and as long as it is", () => {
    const corners = cornersOf({ kind: "oval", width: 30, length: 50 });
    expect(Math.max(...corners.map((p) => p.x))).toBeCloseTo(30);
    expect(Math.max(...corners.map((p) => p.y))).toBeCloseTo(50);
  });
});
