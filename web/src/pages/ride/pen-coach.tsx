import { useState } from "react";
import type { Schemas } from "../../api/client";
import type { Face } from "../../theme/tokens";
import { CoachBar } from "./coach-bar";
import { IntakeBar } from "./intake-bar";

/** Up to so many days an intake ride still finds out more than the record tells. */
const FEW_DAYS = 6;

/** The coach's line, or on a horse that nobody knows the intake's. */
export function PenCoach(props: {
  ride: string;
  standing: Schemas["StandingOut"];
  asks: number;
  changes: number;
  waiting: number;
  face: Face;
  goTo: (step: string) => void;
}) {
  const { standing, asks, ...rest } = props;
  const [guided, setGuided] = useState(false);
  if (guided) return <IntakeBar {...rest} asks={asks} onStop={() => setGuided(false)} />;
  return (
    <CoachBar
      {...rest}
      reps={asks}
      isNew={standing.steps.every((s) => s.sides.length === 0)}
      isLittleKnown={standing.steps.every((s) => s.sides.every((side) => side.days < FEW_DAYS))}
      onGuide={() => setGuided(true)}
    />
  );
}
