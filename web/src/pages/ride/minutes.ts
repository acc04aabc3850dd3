import type { Schemas } from "../../api/client";
import { numbers } from "../../parts/numbers";

export const GAITS = ["stand", "walk", "jog", "lope", "run"] as const;
export type Gait = (typeof GAITS)[number];

/** Minutes by gait as they were typed; what was left empty is none. */
export function minutes(typed: (gait: Gait) => string) {
  const read = numbers(Object.fromEntries(GAITS.map((g) => [g, typed(g)])) as Record<Gait, string>);
  return Object.fromEntries(GAITS.map((g) => [g, read[g] ?? 0])) as Schemas["GaitMinutes"];
}
