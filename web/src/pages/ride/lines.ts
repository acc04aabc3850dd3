import type { Schemas } from "../../api/client";
import type { Side, Weight } from "../../parts/words";

/** A set as it is typed: counts of each outcome, and what the usual rep took. */
export type Line = {
  id: string;
  step: string;
  side: Side;
  gave: string;
  tried: string;
  none: string;
  weight: Weight;
  seconds: string;
};

export function blankLine(step: Schemas["StepOut"] | undefined): Line {
  return {
    id: crypto.randomUUID(),
    step: step?.id ?? "",
    side: step?.sides[0] ?? "both",
    gave: "",
    tried: "",
    none: "",
    weight: "lemon",
    seconds: "",
  };
}

/** A line as a set of reps with ids of their own, so that sending twice is harmless. Empty lines give nothing. */
export function readLine(line: Line, position: number, steps: Schemas["StepOut"][]): Schemas["LateSet"][] {
  const step = steps.find((s) => s.id === line.step);
  const count = (text: string) => Number(text || 0);
  if (!step || count(line.gave) + count(line.tried) + count(line.none) === 0) return [];
  const typed = line.seconds.trim().replace(",", ".");
  // What is no number is sent as one that the server refuses, so that its own words come back to the line.
  const seconds = typed === "" ? null : Number.isFinite(Number(typed)) ? Number(typed) : -1;
  const of = (outcome: Schemas["Outcome"], n: number) =>
    Array.from({ length: n }, () => ({
      id: crypto.randomUUID(),
      outcome,
      missing: null,
      weight: line.weight,
      seconds,
      faults: [],
    }));
  const reps = [
    ...of("gave", count(line.gave)),
    ...of("tried", count(line.tried)),
    ...of("none", count(line.none)),
  ];
  return [{ id: line.id, position, rung: step.rung, gait: step.gait, side: line.side, reps }];
}
