import type { Schemas } from "../../api/client";
import type { Side } from "../../parts/words";
import type { Face } from "../../theme/tokens";
import type { Counted } from "./counted";
import { CountMarks, Dots } from "./dots";
import type { Rep } from "./session";

/** What was logged of the step so far, side by side: counts where it is counted, else asks. */
export function Marks(props: {
  counts: boolean;
  counted: Counted[];
  reps: Rep[];
  sides: Side[];
  weights: Schemas["WeightOut"][];
  face: Face;
  open: string | null;
  onOpenCount: (counted: Counted) => void;
  onOpenRep: (rep: Rep) => void;
}) {
  const { sides, face, open } = props;
  if (props.counts)
    return (
      <CountMarks counted={props.counted} sides={sides} face={face} open={open} onOpen={props.onOpenCount} />
    );
  return (
    <Dots
      reps={props.reps}
      sides={sides}
      weights={props.weights}
      face={face}
      open={open}
      onOpen={props.onOpenRep}
    />
  );
}
