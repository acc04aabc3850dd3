import type { Schemas } from "../../api/client";
import type { Weight } from "../../parts/words";

/** What one remembers of a set: how many of each, what the usual rep took, and the faults. */
export type Remembered = {
  gave: number;
  tried: number;
  none: number;
  weight: Weight;
  /** Of the usual rep; null where nobody timed it. */
  seconds: number | null;
  faults: string[];
};

/**
 * A remembered set as answers in order, each with the weight and the seconds of the usual one; the first of those that were not whole
 * carries the faults, or the first of all where every one was. The server reads shorthand the same way.
 */
export function answersOf(set: Remembered) {
  const outcomes = (["gave", "tried", "none"] as const).flatMap((o) =>
    Array<Schemas["Outcome"]>(set[o]).fill(o),
  );
  const at = set.gave < outcomes.length ? set.gave : 0;
  return outcomes.map((outcome, n) => ({
    outcome,
    missing: null,
    weight: set.weight,
    seconds: set.seconds,
    faults: n === at ? set.faults : [],
  }));
}
