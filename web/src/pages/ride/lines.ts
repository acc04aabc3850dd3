import type { Schemas } from "../../api/client";
import { numbers } from "../../parts/numbers";
import type { Side, Weight } from "../../parts/words";
import { newId } from "../../parts/ids";

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
    id: newId(),
    step: step?.id ?? "",
    side: step?.sides[0] ?? "both",
    gave: "",
    tried: "",
    none: "",
    weight: "lemon",
    seconds: "",
  };
}

const count = (text: string) => Number(text || 0);

/** The lines that something was counted in: those that are sent. */
export const filled = (lines: Line[]) =>
  lines.filter((l) => count(l.gave) + count(l.tried) + count(l.none) > 0);

/** The id of a line's nth rep: the same however often the line is read, so that sending twice is harmless. */
const repId = (line: Line, n: number) => line.id.slice(0, 32) + n.toString(16).padStart(4, "0");

/**
 * Lines as sets of reps. Empty lines give nothing.
 *
 * @throws Refused naming the seconds of each set that are no number.
 */
export function readLines(lines: Line[], steps: Schemas["StepOut"][]): Schemas["LateSet"][] {
  const sent = filled(lines);
  const field = (n: number) => `sets[${n}].seconds`;
  const seconds = numbers(Object.fromEntries(sent.map((l, n) => [field(n), l.seconds])));
  return sent.flatMap((line, n) => {
    const step = steps.find((s) => s.id === line.step);
    if (!step) return [];
    const outcomes = (["gave", "tried", "none"] as const).flatMap((o) =>
      Array<typeof o>(count(line[o])).fill(o),
    );
    const reps = outcomes.map((outcome, k) => ({
      id: repId(line, k),
      outcome,
      missing: null,
      weight: line.weight,
      seconds: seconds[field(n)] ?? null,
      faults: [],
    }));
    return [{ id: line.id, position: n, rung: step.rung, gait: step.gait, side: line.side, reps }];
  });
}
