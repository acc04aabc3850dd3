import type { Schemas } from "../../api/client";
import type { CattleLog } from "../../parts/cattle-log";
import type { Count } from "../../parts/counts";
import type { TackLog } from "../../parts/tack-log";
import type { Side } from "../../parts/words";
import type { Face } from "../../theme/tokens";
import { BracePads } from "./brace-pads";
import { CattlePads } from "./cattle-pads";
import { CountPads } from "./count-pads";
import { Pads } from "./pads";

/** What the pads are for: asks, what is counted otherwise, one rein or two, or turns on cattle. */
export function ModePads(props: {
  mode: "reps" | "counts" | "brace" | "cattle";
  tack: TackLog;
  cattle: CattleLog;
  ride: string;
  step: Schemas["StepOut"];
  rung: Schemas["RungOut"] | undefined;
  face: Face;
  blocked: boolean;
  onAsk: (side: Side, seconds: number | null) => void;
  onCount: (side: Side, count: Count) => void;
}) {
  const { mode, step, rung, face, ride } = props;
  if (mode === "brace") return <BracePads log={props.tack} ride={ride} gait={step.gait} face={face} />;
  if (mode === "cattle") return <CattlePads log={props.cattle} face={face} />;
  if (mode === "counts" && rung)
    return (
      <CountPads
        measure={rung.measure}
        sides={step.sides}
        face={face}
        ride={ride}
        step={step.id}
        onCount={props.onCount}
      />
    );
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
