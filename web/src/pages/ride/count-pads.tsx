import Box from "@mui/material/Box";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import type { Side } from "../../parts/words";
import { sideName } from "../../parts/words";
import { faces, type Face } from "../../theme/tokens";
import { Big } from "./tray";

export type Count = Schemas["CountIn"]["count"];
type Say = (side: Side, count: Count) => void;

const STAGES = [
  ["looks", "Looks"],
  ["toward", "Steps toward"],
  ["one-foot", "One foot"],
  ["two-feet", "Two feet"],
  ["four-feet", "Four feet"],
  ["stands", "Stands"],
  ["crosses", "Crosses"],
] as const;
const ASKED = ["bears", "roots", "tired", "scared", "sharp"] as const;

/** Controls for what is not counted in reps. Each touch is kept as it is made: nothing waits for the end of the set. */
export function CountPads(props: { measure: string; sides: Side[]; face: Face; ride: string; onCount: Say }) {
  const look = faces[props.face];
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: `repeat(${props.sides.length}, minmax(0, 1fr))`,
        gap: "6px",
        minHeight: 0,
        overflowY: "auto",
      }}
    >
      {props.sides.map((side) => (
        <Box
          key={side}
          role="group"
          aria-label={`Count ${side}`}
          sx={{
            borderTop: `10px solid ${look[side]}`,
            display: "grid",
            gap: "6px",
            pt: "6px",
            alignContent: "start",
          }}
        >
          {side !== "both" && <b>{sideName[side]}</b>}
          <Control
            measure={props.measure}
            side={side}
            face={props.face}
            ride={props.ride}
            onCount={props.onCount}
          />
        </Box>
      ))}
    </Box>
  );
}

function Control(props: { measure: string; side: Side; face: Face; ride: string; onCount: Say }) {
  const { side, face, onCount } = props;
  const say = (count: Count) => onCount(side, count);
  switch (props.measure) {
    case "laps":
      return <Laps {...props} />;
    case "nose-ups":
      return <NoseUps {...props} />;
    case "rein-share":
      return <Share {...props} />;
    case "set-ups":
      return (
        <>
          <Big face={face} onClick={() => say({ kind: "set-ups", asked: 1, accepted: 1 })}>
            Stood to it, walked on
          </Big>
          <Big face={face} onClick={() => say({ kind: "set-ups", asked: 1, accepted: 0 })}>
            It went
          </Big>
        </>
      );
    case "mounts":
      return (
        <>
          <Big face={face} onClick={() => say({ kind: "mounts", mounts: 1, loose: 1 })}>
            Up and down, stood loose
          </Big>
          <Big face={face} onClick={() => say({ kind: "mounts", mounts: 1, loose: 0 })}>
            Up and down, tight
          </Big>
        </>
      );
    default:
      return (
        <Box
          sx={{ display: "grid", gap: "6px", gridTemplateColumns: "repeat(auto-fill, minmax(120px, 1fr))" }}
        >
          {STAGES.map(([stage, name]) => (
            <Big key={stage} face={face} onClick={() => say({ kind: "tries", tries: [stage] })}>
              {name}
            </Big>
          ))}
        </Box>
      );
  }
}

/** A number that a half-ridden set stands at: kept on the device, so that a page that is closed loses none of it. */
function useTally(name: string): [number, (n: number) => void] {
  const key = `cavesson.tally.${name}`;
  const [n, setN] = useState(() => {
    try {
      return Number(localStorage.getItem(key) ?? 0) || 0;
    } catch {
      return 0;
    }
  });
  const set = (next: number) => {
    setN(next);
    try {
      if (next > 0) localStorage.setItem(key, String(next));
      else localStorage.removeItem(key);
    } catch {
      // It counts on in this page.
    }
  };
  return [n, set];
}

function Laps(props: { side: Side; face: Face; ride: string; onCount: Say }) {
  const { side, face, onCount } = props;
  const [laps, setLaps] = useTally(`${props.ride}.laps.${side}`);
  const end = (soft: boolean) => {
    onCount(side, { kind: "laps", laps: laps + 1, soft });
    setLaps(0);
  };
  return (
    <>
      <Box component="output" sx={{ fontSize: "1.3rem", fontWeight: 700 }}>
        lap {laps + 1}
      </Box>
      <Big face={face} onClick={() => end(true)}>
        Soft now
      </Big>
      <Big face={face} onClick={() => setLaps(laps + 1)}>
        Another lap
      </Big>
      <Big face={face} onClick={() => end(false)}>
        Left it stiff
      </Big>
    </>
  );
}

function NoseUps(props: { side: Side; face: Face; ride: string; onCount: Say }) {
  const { side, face, onCount } = props;
  const [ups, setUps] = useTally(`${props.ride}.ups.${side}`);
  return (
    <>
      <Box component="output" sx={{ fontSize: "1.3rem", fontWeight: 700 }}>
        {ups} nose-ups
      </Box>
      <Big face={face} onClick={() => setUps(ups + 1)}>
        Nose up
      </Big>
      <Big
        face={face}
        onClick={() => {
          onCount(side, { kind: "nose-ups", circles: 1, ups });
          setUps(0);
        }}
      >
        Circle done
      </Big>
    </>
  );
}

function Share(props: { side: Side; face: Face; onCount: Say }) {
  const { side, face, onCount } = props;
  const look = faces[face];
  const [bridle, setBridle] = useState(10);
  const [asked, setAsked] = useState<string | null>(null);
  const say = (soft: boolean) => {
    onCount(side, { kind: "rein-share", bridle, soft, ...(asked ? { asked } : {}) });
    setAsked(null);
  };
  return (
    <>
      <Box component="label" sx={{ fontWeight: 700 }}>
        {bridle}% bridle rein, {100 - bridle}% hackamore
        <Box
          component="input"
          type="range"
          min={0}
          max={100}
          step={5}
          value={bridle}
          onChange={(e) => setBridle(Number((e.target as HTMLInputElement).value))}
          sx={{ width: "100%", height: 56, accentColor: look.text }}
        />
      </Box>
      <Box role="group" aria-label="Who asked for it" sx={{ display: "flex", gap: "6px", flexWrap: "wrap" }}>
        {ASKED.map((a) => (
          <Big key={a} face={face} pressed={asked === a} onClick={() => setAsked(asked === a ? null : a)}>
            {a}
          </Big>
        ))}
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "6px" }}>
        <Big face={face} onClick={() => say(true)}>
          Soft at it
        </Big>
        <Big face={face} onClick={() => say(false)}>
          Stiff at it
        </Big>
      </Box>
    </>
  );
}
