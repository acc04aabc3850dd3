import Box from "@mui/material/Box";
import { useState } from "react";
import { STAGES, type Count, type Measure } from "../../parts/counts";
import { useKeys } from "../../parts/keys";
import { sideName, type Side } from "../../parts/words";
import { faces, type Face } from "../../theme/tokens";
import { Held } from "./count-held";
import { CountPad, Ends, type ControlProps } from "./count-pad";
import { Share } from "./count-share";
import { Big } from "./big";
import { useTally } from "./use-tally";

type Props = {
  measure: Measure;
  sides: Side[];
  face: Face;
  ride: string;
  step: string;
  onCount: (side: Side, count: Count) => void;
};

/** Controls for what is not counted in asks. Each touch is kept as it is made: nothing waits for the end of the set. One side at a
 * time has the keys. */
export function CountPads({ measure, sides, face, ride, step, onCount }: Props) {
  const [chosen, setKeyed] = useState<Side>(sides[0] ?? "both");
  const keyed = sides.includes(chosen) ? chosen : (sides[0] ?? "both");
  useKeys({
    f: () => sides.includes("left") && setKeyed("left"),
    j: () => sides.includes("right") && setKeyed("right"),
  });
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: `repeat(${sides.length}, minmax(0, 1fr))`,
        gap: "6px",
        minHeight: 0,
        overflowY: "auto",
      }}
    >
      {sides.map((side) => (
        <Box
          key={side}
          role="group"
          aria-label={`Count ${side}`}
          onPointerDown={() => setKeyed(side)}
          sx={{
            display: "flex",
            flexDirection: "column",
            gap: "6px",
            minHeight: 0,
          }}
        >
          {side !== "both" && (
            <Box component="b" sx={{ borderTop: `8px solid ${faces[face][side]}`, pt: "2px" }}>
              {sideName[side]}
              {keyed === side && (
                <Box
                  component="span"
                  sx={{ display: { xs: "none", md: "inline" }, fontWeight: 400, opacity: 0.75 }}
                >
                  {" "}
                  has the keys
                </Box>
              )}
            </Box>
          )}
          <Control
            key={step}
            measure={measure}
            side={side}
            face={face}
            keyed={keyed === side}
            place={`${ride}.${step}.${side}`}
            say={(count) => onCount(side, count)}
          />
        </Box>
      ))}
    </Box>
  );
}

function Control({ measure, ...props }: ControlProps & { measure: Measure }) {
  const { say } = props;
  switch (measure.kind) {
    case "laps":
      return (
        <Tallied
          {...props}
          shows={(n) => `lap ${n + 1}`}
          more="Another lap"
          good={["Soft now", (n) => ({ kind: "laps", laps: n + 1, soft: true })]}
          bad={["Left it stiff", (n) => ({ kind: "laps", laps: n + 1, soft: false })]}
        />
      );
    case "nose-ups":
      return (
        <Tallied
          {...props}
          shows={(n) => `${n} nose-${n === 1 ? "up" : "ups"}`}
          more="Nose up"
          good={["Circle done", (n) => ({ kind: "nose-ups", circles: 1, ups: n })]}
        />
      );
    case "steps":
      return (
        <Tallied
          {...props}
          shows={(n) => `${n} of ${measure.count} steps`}
          more="A good step"
          good={["Let it stand", (n) => (n > 0 ? { kind: "steps", steps: n, broke: false } : null)]}
          bad={["It went wrong", (n) => ({ kind: "steps", steps: n, broke: true })]}
        />
      );
    case "held":
      return <Held {...props} aim={measure.seconds} />;
    case "rein-share":
      return <Share {...props} wanted={measure.bridle} />;
    case "set-ups":
      return (
        <Pair
          {...props}
          good={["Stood to it, walked on", { kind: "set-ups", asked: 1, accepted: 1 }]}
          bad={["It went", { kind: "set-ups", asked: 1, accepted: 0 }]}
        />
      );
    case "mounts":
      return (
        <Pair
          {...props}
          good={["Up and down, stood loose", { kind: "mounts", mounts: 1, loose: 1 }]}
          bad={["Up and down, tight", { kind: "mounts", mounts: 1, loose: 0 }]}
        />
      );
    case "tries":
      return <Stages face={props.face} keyed={props.keyed} say={say} />;
    case "reps":
      return null;
  }
}

/** Something that is counted up until it ends well or does not. */
function Tallied(
  props: ControlProps & {
    shows: (n: number) => string;
    more: string;
    good: [string, (n: number) => Count | null];
    bad?: [string, (n: number) => Count];
  },
) {
  const { side, face, keyed, place, say, good, bad } = props;
  const [n, setN] = useTally(place);
  const end = (count: Count | null) => {
    if (!count) return;
    say(count);
    setN(0);
  };
  const more = () => setN(n + 1);
  const fewer = () => setN(Math.max(0, n - 1));
  useKeys(
    keyed
      ? {
          "+": more,
          ArrowUp: more,
          "-": fewer,
          ArrowDown: fewer,
          g: () => end(good[1](n)),
          ...(bad ? { n: () => end(bad[1](n)) } : {}),
        }
      : {},
  );
  const ending = (
    <Big face={face} hint="G" disabled={good[1](n) === null} onClick={() => end(good[1](n))}>
      {good[0]}
    </Big>
  );
  return (
    <>
      <CountPad side={side} face={face} hint="↑" shows={props.shows(n)} onClick={more}>
        {props.more}
      </CountPad>
      <Ends>
        {bad && ending}
        <Box sx={{ display: "grid", gap: "6px", gridTemplateColumns: "1fr auto" }}>
          {bad ? (
            <Big face={face} hint="N" onClick={() => end(bad[1](n))}>
              {bad[0]}
            </Big>
          ) : (
            ending
          )}
          <Big face={face} label="One less" disabled={n === 0} onClick={fewer}>
            −
          </Big>
        </Box>
      </Ends>
    </>
  );
}

function Pair(props: ControlProps & { good: [string, Count]; bad: [string, Count] }) {
  const { side, face, keyed, say, good, bad } = props;
  useKeys(keyed ? { g: () => say(good[1]), n: () => say(bad[1]) } : {});
  return (
    <>
      <CountPad side={side} face={face} hint="G" onClick={() => say(good[1])}>
        {good[0]}
      </CountPad>
      <Ends>
        <Big face={face} hint="N" onClick={() => say(bad[1])}>
          {bad[0]}
        </Big>
      </Ends>
    </>
  );
}

function Stages({ face, keyed, say }: Pick<ControlProps, "face" | "keyed" | "say">) {
  const at = STAGES.map(
    ([stage], n) => [String(n + 1), () => say({ kind: "tries", tries: [stage] })] as const,
  );
  useKeys(keyed ? Object.fromEntries(at) : {});
  return (
    <Box
      sx={{
        flex: 1,
        display: "grid",
        gap: "6px",
        gridTemplateColumns: { xs: "1fr 1fr", sm: "repeat(4, 1fr)" },
        gridAutoRows: "minmax(56px, 1fr)",
      }}
    >
      {STAGES.map(([stage, name], n) => (
        <Box key={stage} sx={{ display: "grid", gridColumn: n + 1 === STAGES.length ? "span 2" : undefined }}>
          <Big face={face} hint={String(n + 1)} onClick={() => say({ kind: "tries", tries: [stage] })}>
            {name}
          </Big>
        </Box>
      ))}
    </Box>
  );
}
