import { expect, it, vi } from "vitest";
import type { ExerciseEntry } from "./exercise-log";

vi.stubGlobal("window", { addEventListener: () => undefined });
const { calledSoFar } = await import("./exercise-log");

const moves = (...told: [number, "done" | "again"][]): ExerciseEntry[] =>
  told.map(([call, answer], n) => ({
    id: String(n),
    at: `2026-03-02T10:00:${String(n).padStart(2, "0")}Z`,
    event: { kind: "move", figure: "Laps", call, says: `Call ${call}`, answer },
    version: 1,
    who: "Ada",
  }));

it("goes on with the next call, and stays where it is ridden again", () => {
  expect(calledSoFar([], "Laps")).toEqual({ next: 0, again: [] });
  expect(calledSoFar(moves([0, "done"], [1, "again"]), "Laps")).toEqual({ next: 1, again: ["Call 1"] });
  expect(calledSoFar(moves([0, "again"], [0, "again"], [0, "done"]), "Laps")).toEqual({
    next: 1,
    again: ["Call 0", "Call 0"],
  });
  expect(calledSoFar(moves([0, "done"]), "Another figure").next).toBe(0);
});

it("forgets the first time round once it is begun anew", () => {
  const twice = moves([0, "done"], [1, "again"], [1, "done"], [0, "done"]);
  expect(calledSoFar(twice, "Laps")).toEqual({ next: 1, again: [] });
});
