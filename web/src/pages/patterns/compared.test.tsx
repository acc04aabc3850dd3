// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { Compared, parts } from "./compared";

const pass = (id: string, more: Partial<Schemas["PassOut"]>) =>
  ({ id, on: "2026-03-02", behind: [], seconds: null, track: null, ...more }) as Schemas["PassOut"];
const track = { behind: [5, 9.5], seconds: 17 } as Schemas["TrackOut"];

afterEach(cleanup);

it("takes times that were taken, else those of the watch, and none where some are missing", () => {
  expect(parts(pass("a", { behind: [4, 10], seconds: 16, track }))).toEqual([4, 6, 6]);
  expect(parts(pass("a", { behind: [4, null], seconds: 16, track }))).toEqual([5, 4.5, 7.5]);
  expect(parts(pass("a", { behind: [4, null], seconds: 16 }))).toBeNull();
  expect(parts(pass("a", { seconds: 16 }))).toBeNull();
});

it("tells where the second took longer", () => {
  const two = [pass("a", { behind: [4, 10], seconds: 16 }), pass("b", { track })];
  render(<Compared passes={two} />);
  const rows = screen.getAllByRole("row").map((row) => row.textContent);
  expect(rows.slice(1)).toEqual([
    "behind barrel 14.005.00+1.00",
    "behind barrel 26.004.50−1.50",
    "home6.007.50+1.50",
    "in all16.0017.00+1.00",
  ]);
});

it("says that passes over other set-ups do not compare", () => {
  const two = [pass("a", { behind: [4], seconds: 16 }), pass("b", { track })];
  render(<Compared passes={two} />);
  expect(screen.queryByRole("table")).toBeNull();
  expect(screen.getByText(/do not compare/)).toBeTruthy();
});
