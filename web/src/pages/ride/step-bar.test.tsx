// @vitest-environment happy-dom
import { cleanup, render, screen, within } from "@testing-library/react";
import { afterEach, expect, test, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { StepBar } from "./step-bar";

afterEach(cleanup);

const rung = (id: string) => ({ id, name: `Rung ${id}`, ladder: id[0] });
const step = (id: string) => ({
  id,
  rung: id.split("@")[0],
  name: id,
  gait: "walk",
  sides: ["left", "right"],
});
const book = {
  ladders: [
    { letter: "G", name: "Ground" },
    { letter: "S", name: "Softness" },
    { letter: "T", name: "Stop" },
  ],
  rungs: ["G1", "G7", "S1", "S2", "S6", "T1"].map(rung),
  steps: ["G1", "G7@walk", "S1", "S2", "S6@walk", "T1"].map(step),
} as unknown as Schemas["CurriculumOut"];
const standing = {
  steps: [
    { id: "S1", status: "owned", gait: "walk", sides: [{}] },
    { id: "S6@walk", status: "learning", gait: "walk", sides: [{}] },
    { id: "S2", status: "untried", gait: "walk", sides: [] },
  ],
} as unknown as Schemas["StandingOut"];
const plan = {
  parts: [{ step: "S1" }, { step: null }, { step: "G7@walk" }],
} as unknown as Schemas["PlanOut"];

function open(of: Schemas["PlanOut"] | undefined) {
  const current = book.steps[0] as Schemas["StepOut"];
  render(
    <StepBar book={book} standing={standing} plan={of} current={current} face="dark" onPick={vi.fn()} />,
  );
  const groups = within(screen.getByLabelText("Rung")).getAllByRole("group");
  return groups.map((g) => [
    g.getAttribute("label"),
    ...within(g)
      .getAllByRole<HTMLOptionElement>("option")
      .map((o) => o.value),
  ]);
}

test("rungs of today's plan come first, then what the horse is on, then the rest, each once", () => {
  expect(open(plan)).toEqual([
    ["Today's plan", "S1", "G7"],
    ["In work", "S6"],
    ["Ground", "G1"],
    ["Softness", "S2"],
    ["Stop", "T1"],
  ]);
});

test("without a plan the list begins with what the horse is on", () => {
  expect(open(undefined)[0]).toEqual(["In work", "S6"]);
  expect(screen.getByText(/S2 Rung S2 \(never taught\)/)).toBeTruthy();
});
