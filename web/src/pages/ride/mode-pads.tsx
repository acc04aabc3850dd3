import type { Schemas } from "../../api/client";
import type { CattleLog } from "../../parts/cattle-log";
import type { Count } from "../../parts/counts";
import type { ExerciseLog } from "../../parts/exercise-log";
import type { TackLog } from "../../parts/tack-log";
import type { Side } from "../../parts/words";
import type { Face } from "../../theme/tokens";
import { BracePads } from "./brace-pads";
import { CallPads } from "./call-pads";
import { CattlePads } from "./cattle-pads";
import { ChangePads } from "./change-pads";
import { CountPads } from "./count-pads";
import type { Mode } from "./modes";
import { ObstaclePads } from "./obstacle-pads";
import { Pads } from "./pads";
import { SetUpPads } from "./set-up-pads";
import type { RideFigure } from "./use-ride-figure";

/** What the pads are for: asks, what is counted otherwise, or one of the modes. */
export function ModePads(props: {
  mode: Mode | "reps" | "counts";
  tack: TackLog;
  cattle: CattleLog;
  exercises: ExerciseLog;
  figure: RideFigure | null;
  ride: string;
  step: Schemas["StepOut"];
  rung: Schemas["RungOut"] | undefined;
  face: Face;
  blocked: boolean;
  onAsk: (side: Side, seconds: number | null) => void;
  onCount: (side: Side, count: Count) => string;
  /** Counts for a rung that need not be the one that is asked now. */
  onCountFor: (rung: string, count: Count) => string;
  goTo: (step: string) => void;
}) {
  const { mode, step, rung, face, ride, exercises } = props;
  switch (mode) {
    case "brace":
      return <BracePads log={props.tack} ride={ride} gait={step.gait} face={face} />;
    case "cattle":
      return <CattlePads log={props.cattle} face={face} />;
    case "set-ups":
      return <SetUpPads log={exercises} face={face} onCount={props.onCount} />;
    case "changes":
      return <ChangePads log={exercises} face={face} goTo={props.goTo} />;
    case "obstacles":
      return (
        rung && (
          <ObstaclePads
            log={exercises}
            figure={props.figure}
            rung={rung}
            face={face}
            onCount={props.onCountFor}
          />
        )
      );
    case "calls":
      return props.figure && <CallPads figure={props.figure} log={exercises} face={face} />;
    case "counts":
      return (
        rung && (
          <CountPads
            measure={rung.measure}
            sides={step.sides}
            face={face}
            ride={ride}
            step={step.id}
            onCount={props.onCount}
          />
        )
      );
    case "reps":
      return (
        <Pads
          sides={step.sides}
          face={face}
          onAsk={props.onAsk}
          blocked={props.blocked}
          buzzAt={rung?.standard.seconds ?? null}
        />
      );
  }
}
