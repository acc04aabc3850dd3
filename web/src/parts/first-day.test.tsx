// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { around } from "../tests/around";
import { doneInWords, FirstDay } from "./first-day";
import type { TackLog } from "./tack-log";

afterEach(cleanup);

const names = ["Slip it in", "Hang it", "Set the strap"];
const list = (more: Partial<Schemas["FirstDayOut"]>): Schemas["FirstDayOut"] => ({
  steps: names.map((name) => ({
    name,
    ask: "hang it",
    passed: "it is quiet",
    caution: "Look",
    strap: name === "Set the strap",
  })),
  lacks: [],
  anyway: null,
  next: 0,
  another_day: false,
  done: null,
  says: "Slip it in comes first",
  noted: [],
  ...more,
});
const noted = (step: number, came: Schemas["Came"], more: Partial<Schemas["StepNotedOut"]> = {}) => ({
  ...{ id: `${step}${came}`, ride_id: "r", on: "2026-03-02", who: "Ada", step, came, tossed: false },
  ...{ hole: null, turned: null, corner: null, version: 1 },
  ...more,
});
const show = (it: Schemas["FirstDayOut"], role: Schemas["Role"] = "trainer") => {
  const { wrapper } = around(role);
  const log = { log: vi.fn(), waiting: [] };
  render(<FirstDay list={it} log={log as unknown as TackLog} />, { wrapper });
  return log.log;
};
const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));
const type = (label: RegExp, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });

it("notes the next step as passed, fretted or left", () => {
  const log = show(list({}));
  press("Passed");
  const none = { kind: "step", step: 0, tossed: false, hole: null, turned: null, corner: null };
  expect(log).toHaveBeenCalledWith({ ...none, came: "passed" });
  press("Tossed its head");
  expect(screen.getByRole("button", { name: "Passed" })).toHaveProperty("disabled", true);
  press("Fretted");
  expect(log).toHaveBeenLastCalledWith({ ...none, came: "fretted", tossed: true });
});

it("asks for the strap's hole, the turn and the corner of the mouth where the strap is set", () => {
  const log = show(list({ next: 2, noted: [noted(0, "passed"), noted(1, "passed")] }));
  type(/Hole of the strap/, "25");
  expect(screen.getByRole("button", { name: "Passed" })).toHaveProperty("disabled", true);
  type(/Hole of the strap/, "4");
  type(/Shank turned/, "45");
  press("Quiet");
  press("Passed");
  expect(log).toHaveBeenCalledWith({
    kind: "step",
    step: 2,
    came: "passed",
    tossed: false,
    hole: 4,
    turned: Math.PI / 4,
    corner: "quiet",
  });
});

it("stays shut while something is lacking, until a trainer signs", () => {
  const lacks = ["No vet or dentist saw the teeth"];
  const log = show(list({ lacks }));
  expect(screen.queryByRole("button", { name: "Passed" })).toBeNull();
  press("Begin anyway");
  fireEvent.change(screen.getByLabelText(/Why, in writing/), { target: { value: "Seen by phone " } });
  press("Sign");
  expect(log).toHaveBeenCalledWith({ kind: "anyway", why: "Seen by phone" });
  cleanup();
  show(list({ lacks }), "assistant");
  expect(screen.queryByRole("button", { name: "Begin anyway" })).toBeNull();
});

it("says how a step went", () => {
  expect(doneInWords([])).toBe("");
  const strap = noted(2, "passed", { hole: 4, turned: Math.PI / 4, corner: "quiet" });
  expect(doneInWords([noted(2, "fretted", { tossed: true }), strap])).toBe(
    "passed Mon, Mar 2, hole 4, turned 45°, corner quiet, fretted once before",
  );
  expect(doneInWords([noted(2, "left")])).toBe("left for another day Mon, Mar 2");
});
