import type { Schemas } from "../../api/client";
import { newId } from "../../parts/ids";
import type { Side } from "../../parts/words";
import { answersOf, type Remembered } from "./remembered";
import { newSet, type Around, type Rep, type Session } from "./session";

/** A remembered set of one side, tapped while riding. */
export type TappedSet = Remembered & { side: Side };

/** A tapped set as reps of a set of its own, in the order in which they are sent. */
export function repsOf(
  session: Session,
  step: Schemas["StepOut"],
  tapped: TappedSet,
  around: Around,
  askedAt: string,
): Rep[] {
  const set = newSet(session, step, tapped.side, around);
  return answersOf(tapped).map((answer, position) => ({
    ...answer,
    id: newId(),
    set,
    position,
    askedAt,
    removed: false,
    version: 1,
  }));
}
