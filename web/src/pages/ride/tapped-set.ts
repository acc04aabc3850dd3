import type { Schemas } from "../../api/client";
import { newId } from "../../parts/ids";
import type { Side, Weight } from "../../parts/words";
import { newSet, type Around, type Rep, type Session } from "./session";

/** So many asks at once, from memory. */
export type TappedSet = {
  side: Side;
  asks: number;
  gave: number;
  weight: Weight;
  /** What the usual answer took; null where nobody timed it. */
  seconds: number | null;
  faults: string[];
};

/**
 * A tapped set as reps of a set of its own, in the order in which they are sent. The seconds are those of the whole answers, and the
 * faults go to the first ask that was not one.
 */
export function repsOf(
  session: Session,
  step: Schemas["StepOut"],
  tapped: TappedSet,
  around: Around,
  at: string,
): Rep[] {
  const set = newSet(session, step, tapped.side, around);
  return Array.from({ length: tapped.asks }, (_, position) => {
    const whole = position < tapped.gave;
    return {
      id: newId(),
      set,
      position,
      outcome: whole ? "gave" : "none",
      missing: null,
      weight: tapped.weight,
      seconds: whole ? tapped.seconds : null,
      faults: position === Math.min(tapped.gave, tapped.asks - 1) ? tapped.faults : [],
      askedAt: at,
      removed: false,
      version: 1,
    };
  });
}
