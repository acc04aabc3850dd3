import type { Schemas } from "../../api/client";
import type { Face } from "../../theme/tokens";
import { CloseRide } from "./close-ride";
import { HandOver } from "./hand-over";
import type { Now } from "./hands";
import { PlanSheet } from "./plan-sheet";
import { RideKeys } from "./ride-keys";
import { SetSheet } from "./set-sheet";
import type { TappedSet } from "./tapped-set";

export type Sheet = "close" | "plan" | "hand-over" | "keys" | "set" | null;

/** What opens over the pads, one at a time. */
export function PenSheets(props: {
  sheet: Sheet;
  ride: Schemas["RideDetail"];
  book: Schemas["CurriculumOut"];
  plan: Schemas["PlanOut"] | undefined;
  now: Now;
  cattle: boolean;
  reps: number;
  step: Schemas["StepOut"];
  rung: Schemas["RungOut"] | undefined;
  tapped: TappedSet | null;
  face: Face;
  onNow: (now: Now) => void;
  onLog: (set: TappedSet) => void;
  onClose: () => void;
}) {
  const { sheet, ride, book, plan, rung, onClose } = props;
  if (sheet === "close") return <CloseRide ride={ride} book={book} reps={props.reps} onLeave={onClose} />;
  if (sheet === "plan" && plan)
    return <PlanSheet ride={ride} plan={plan} book={book} mayChange onClose={onClose} />;
  if (sheet === "hand-over")
    return (
      <HandOver ride={ride} now={props.now} cattle={props.cattle} onChange={props.onNow} onClose={onClose} />
    );
  if (sheet === "set" && rung)
    return (
      <SetSheet
        step={props.step}
        rung={rung}
        faults={book.faults}
        weights={book.weights}
        last={props.tapped ?? { weight: rung.standard.weight, seconds: null }}
        face={props.face}
        onLog={props.onLog}
        onClose={onClose}
      />
    );
  return sheet === "keys" ? <RideKeys onClose={onClose} /> : null;
}
