import type { Schemas } from "../../api/client";
import type { RideFigure } from "./use-ride-figure";

/** What the pads are for besides asks and counts. */
export type Mode = "brace" | "cattle" | "set-ups" | "changes" | "obstacles" | "calls";

/** Whether it is logged as an exercise. */
export const isExercise = (mode: Mode | null) => mode !== null && mode !== "brace" && mode !== "cattle";

const names: Record<Mode, string> = {
  brace: "One rein or two",
  cattle: "Turns on cattle",
  "set-ups": "Go or not",
  changes: "Changes",
  obstacles: "Obstacles",
  calls: "Calls",
};

/** What the pads may be for on a rung, with the names of the buttons. */
export function modesOf(of: {
  rung: Schemas["RungOut"] | undefined;
  testsBrace: boolean;
  figure: RideFigure | null;
}): [Mode, string][] {
  const { rung, figure } = of;
  const offered: Record<Mode, boolean> = {
    calls: (figure?.ridden?.calls.length ?? 0) > 0,
    obstacles: rung?.measure.kind === "tries" || (figure?.ridden?.course.length ?? 0) > 0,
    "set-ups": rung?.measure.kind === "set-ups",
    changes: rung?.faults.includes("front-first") ?? false,
    brace: of.testsBrace,
    cattle: rung?.cattle ?? false,
  };
  return (Object.keys(offered) as Mode[]).filter((mode) => offered[mode]).map((mode) => [mode, names[mode]]);
}
