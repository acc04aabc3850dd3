// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, test } from "vitest";
import type { Schemas } from "../api/client";
import { around } from "../tests/around";
import { LoggedSet, type Logged } from "./logged-set";

afterEach(cleanup);

const set: Schemas["SetIn"] = { id: "s", position: 0, rung: "S1", gait: "walk", side: "left" };
const rep = (more: Partial<Schemas["RepIn"]>): Logged => ({
  kind: "rep",
  body: { set, position: 0, outcome: "gave", weight: "egg", ...more },
});
const rows = () => screen.getAllByRole("listitem").map((row) => row.textContent);

function shown(items: Logged[]) {
  const { client, wrapper } = around();
  client.setQueryData(["curriculum"], {
    rungs: [{ id: "S1", name: "Flexion" }],
    weights: [{ weight: "egg", phrase: "an egg" }],
  });
  render(<LoggedSet items={items} />, { wrapper });
}

test("every ask of a set is told, with its weight, time and faults", () => {
  shown([rep({ seconds: 1.2 }), rep({ outcome: "none", faults: ["leans"] })]);
  expect(screen.getByText("Flexion, walk, left")).toBeDefined();
  expect(rows()).toEqual(["gave, an egg, 1.2 s", "none, an egg, leans"]);
});

test("a count is told in its own measure, and a rung that is gone by its letter", () => {
  const side = { ...set, rung: "Q9", side: "both" as const };
  shown([{ kind: "count", body: { set: side, count: { kind: "laps", laps: 3, soft: true }, faults: [] } }]);
  expect(screen.getByText("Q9, walk")).toBeDefined();
  expect(rows()).toEqual(["3 laps"]);
});
