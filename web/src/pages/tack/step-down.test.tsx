// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { around } from "../../tests/around";
import { StepDown, trendInWords } from "./step-down";

afterEach(cleanup);

const down = (more: Partial<Schemas["StepDownOut"]>): Schemas["StepDownOut"] => ({
  said: "on-two",
  pairs: 30,
  weeks: [{ week: "2026-03-02", pairs: 30, on_two_only: 12, on_one_only: 1 }],
  trend: null,
  gaits: [
    { gait: "walk", pairs: 12, on_two_only: 0, likely: 0.98, may: true },
    { gait: "jog", pairs: 12, on_two_only: 6, likely: 0.01, may: false },
  ],
  heads: [
    [30, 3],
    [30, 15],
  ],
  ...more,
});

it("says of each gait whether two reins may be asked on, and where the head was", () => {
  render(<StepDown down={down({})} />, { wrapper: around().wrapper });
  expect(screen.getByRole("row", { name: /^walk 0 of 12 pairs.*softly, low and wide/ })).toBeTruthy();
  expect(screen.getByRole("row", { name: /^jog 6 of 12 pairs.*not yet/ })).toBeTruthy();
  expect(screen.getByText("Head up at the ask: 10% on one rein, 50% on two.")).toBeTruthy();
  expect(screen.getByRole("img", { name: "1 week: 12 of 30 braced on two only" })).toBeTruthy();
});

it("says where to begin while nothing was asked", () => {
  const heads = [
    [0, 0],
    [0, 0],
  ];
  render(<StepDown down={down({ pairs: 0, weeks: [], gaits: [], heads })} />, { wrapper: around().wrapper });
  expect(screen.getByText(/No pair was asked yet/)).toBeTruthy();
});

it("says whether the difference shrinks, and does not before it can be told", () => {
  expect(trendInWords(down({}))).toContain("third week");
  expect(trendInWords(down({ trend: [-0.1, -0.2, -0.02] }))).toContain("shrinks week by week");
  expect(trendInWords(down({ trend: [-0.1, -0.3, 0.1] }))).toContain("cannot be told");
  expect(trendInWords(down({ trend: [0.1, 0.02, 0.2] }))).toContain("grows");
});
