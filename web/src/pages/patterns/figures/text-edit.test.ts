import { expect, it } from "vitest";
import type { Schemas } from "../../../api/client";
import { at, points, whereAt, type Piece } from "./piece";
import { nudged, offsetOf, placed, startLine, appended, lengthened } from "./text-edit";

it("puts a mark or the start somewhere else and keeps the rest of the line", () => {
  const text = "start 0 2.5 m heading 90\nmark gap -25ft 76  # far\njog\nline to gap";
  expect(placed(text, 2, 10.26, -4)).toBe(
    "start 0 2.5 m heading 90\nmark gap 10.5 -4  # far\njog\nline to gap",
  );
  expect(placed(text, 1, 6, 7)).toContain("start 6 7 heading 90\n");
  expect(placed(text, 3, 6, 7)).toBe(text);
  expect(placed(text, 9, 6, 7)).toBe(text);
  expect(startLine(text)).toBe(1);
  expect(startLine("start at gap heading 0\njog")).toBeNull();
});

it("moves a mark from where the text says", () => {
  const text = "start 0 3.048 m heading 90\nmark gap-2 -25ft 2yd # far";
  expect(nudged(nudged(text, 2, 1, 0), 2, 0, -0.5)).toBe(
    "start 0 3.048 m heading 90\nmark gap-2 -24 5.5 # far",
  );
  expect(nudged(text, 1, 0, 1)).toContain("start 0 11 heading 90\n");
  expect(nudged("jog 5 5", 1, 1, 1)).toBe("jog 5 5");
});

it("finds a column where a character takes two units", () => {
  expect(offsetOf("# 🐎\njog x", 2, 5)).toBe(9);
  expect(offsetOf("# 🐎 a", 1, 5)).toBe(5);
});

const piece = (more: Partial<Piece>) =>
  ({
    step: 0,
    line: 1,
    gait: "jog",
    lead: null,
    at: { x: 0, y: 0 },
    heading: 0,
    length: 10,
    seconds: 5,
    hand: null,
    radius: null,
    degrees: null,
    ...more,
  }) satisfies Piece;

const near = (p: Schemas["Point"], x: number, y: number) => {
  expect(p.x).toBeCloseTo(x, 9);
  expect(p.y).toBeCloseTo(y, 9);
};

it("knows where a horse is along straights and curves", () => {
  near(at(piece({}), 0.5).at, 0, 5);
  near(at(piece({ gait: "back" }), 1).at, 0, -10);
  near(at(piece({ gait: "side", hand: "left" }), 1).at, -10, 0);
  const quarter = piece({ hand: "right", radius: 4, degrees: 90, length: 2 * Math.PI });
  near(at(quarter, 1).at, 4, 4);
  expect(at(quarter, 1).heading).toBe(90);
  expect(points(quarter)).toHaveLength(16);
  const path = [piece({}), { ...quarter, at: { x: 0, y: 10 } }];
  near(whereAt(path, 5)?.at ?? { x: 9, y: 9 }, 0, 10);
  near(whereAt(path, 10)?.at ?? { x: 9, y: 9 }, 4, 14);
  expect(whereAt(path, 10.1)).toBeNull();
});

it("makes a straight longer in its own unit, and nothing else", () => {
  const text = "walk\nline 17  # to the bridge\nLine 5.5 m\nline to far\ncircle left 12";
  expect(lengthened(text, 2, 3.52)).toContain("line 20.5  # to the bridge\n");
  expect(lengthened(text, 3, 1 / 0.3048)).toContain("Line 6.5 m\n");
  for (const line of [1, 4, 5, 9]) expect(lengthened(text, line, 2)).toBe(text);
  expect(lengthened(text, 2, -17)).toBe(text);
});

it("adds lines before the stop that ends a figure, or at its end", () => {
  expect(appended("walk\nline 9\nstop  # there\n", "jog\npoles 4 spacing 38 in\n")).toBe(
    "walk\nline 9\njog\npoles 4 spacing 38 in\nstop  # there\n",
  );
  expect(appended("walk\nline 9", "stop\ngate left\n")).toBe("walk\nline 9\nstop\ngate left\n");
});
