import Box from "@mui/material/Box";
import { useEffect, useState, type ReactNode } from "react";
import { STAGES, type Count, type Measure } from "../../parts/counts";
import { useKeys } from "../../parts/keys";
import { sideName, type Side } from "../../parts/words";
import { faces, slab, type Face } from "../../theme/tokens";
import { Big } from "./tray";
import { useTally } from "./use-tally";

type Props = {
  measure: Measure;
  sides: Side[];
  face: Face;
  ride: string;
  step: string;
  onCount: (side: Side, count: Count) => void;
};

const ASKED = ["bears", "roots", "tired", "scared", "sharp"] as const;

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
            borderTop: `10px solid ${faces[face][side]}`,
            display: "grid",
            gap: "6px",
            pt: "6px",
            alignContent: "start",
          }}
        >
          {side !== "both" && (
            <b>
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
            </b>
          )}
          <Control
            key={step}
            measure={measure}
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

type ControlProps = { face: Face; keyed: boolean; place: string; say: (count: Count) => void };

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
  const { face, keyed, place, say, good, bad } = props;
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
  return (
    <>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr auto", alignItems: "center", gap: "6px" }}>
        <Figure>{props.shows(n)}</Figure>
        <Big face={face} label="One less" disabled={n === 0} onClick={fewer}>
          −
        </Big>
      </Box>
      <Big face={face} hint="↑" onClick={more}>
        {props.more}
      </Big>
      <Big face={face} hint="G" disabled={good[1](n) === null} onClick={() => end(good[1](n))}>
        {good[0]}
      </Big>
      {bad && (
        <Big face={face} hint="N" onClick={() => end(bad[1](n))}>
          {bad[0]}
        </Big>
      )}
    </>
  );
}

function Figure({ children }: { children: ReactNode }) {
  return (
    <Box component="output" sx={{ fontFamily: slab, fontSize: "1.6rem", fontWeight: 700, lineHeight: 1.1 }}>
      {children}
    </Box>
  );
}

function Pair(props: ControlProps & { good: [string, Count]; bad: [string, Count] }) {
  const { face, keyed, say, good, bad } = props;
  useKeys(keyed ? { g: () => say(good[1]), n: () => say(bad[1]) } : {});
  return (
    <>
      <Big face={face} hint="G" onClick={() => say(good[1])}>
        {good[0]}
      </Big>
      <Big face={face} hint="N" onClick={() => say(bad[1])}>
        {bad[0]}
      </Big>
    </>
  );
}

/** Seconds off the hand: a clock that runs on, whatever the page does meanwhile. */
function Held({ face, keyed, place, say, aim }: ControlProps & { aim: number }) {
  const [since, setSince] = useTally(place);
  const [now, setNow] = useState(() => Date.now());
  const seconds = since > 0 ? Math.max(0, Math.floor((now - since) / 1000)) : 0;
  const reached = since > 0 && seconds >= aim;
  useEffect(() => {
    if (since === 0) return;
    const tick = setInterval(() => setNow(Date.now()), 200);
    return () => clearInterval(tick);
  }, [since]);
  useEffect(() => {
    if (reached) navigator.vibrate?.(120);
  }, [reached]);
  const begin = () => {
    setNow(Date.now());
    setSince(Date.now());
  };
  const end = (lost: boolean) => {
    if (since === 0) return;
    const held = Math.min(3600, Math.max(0, Math.floor((Date.now() - since) / 1000)));
    setSince(0);
    // Let go of within the first second is a touch that was not meant.
    if (lost || held > 0) say({ kind: "held", seconds: held, lost });
  };
  useKeys(keyed ? { "+": begin, ArrowUp: begin, g: () => end(false), n: () => end(true) } : {});
  return (
    <>
      <Figure>
        {since === 0 ? `${aim} s is the aim` : `${seconds} of ${aim} s${reached ? ", there" : ""}`}
      </Figure>
      {since === 0 ? (
        <Big face={face} hint="↑" onClick={begin}>
          Off the hand now
        </Big>
      ) : (
        <>
          <Big face={face} hint="G" onClick={() => end(false)}>
            Let go of it, still soft
          </Big>
          <Big face={face} hint="N" onClick={() => end(true)}>
            It came back onto the hand
          </Big>
        </>
      )}
    </>
  );
}

function Stages({ face, keyed, say }: Pick<ControlProps, "face" | "keyed" | "say">) {
  const at = STAGES.map(
    ([stage], n) => [String(n + 1), () => say({ kind: "tries", tries: [stage] })] as const,
  );
  useKeys(keyed ? Object.fromEntries(at) : {});
  return (
    <Box sx={{ display: "grid", gap: "6px", gridTemplateColumns: "repeat(auto-fill, minmax(120px, 1fr))" }}>
      {STAGES.map(([stage, name], n) => (
        <Big
          key={stage}
          face={face}
          hint={String(n + 1)}
          onClick={() => say({ kind: "tries", tries: [stage] })}
        >
          {name}
        </Big>
      ))}
    </Box>
  );
}

function Share({ face, keyed, say, wanted }: Omit<ControlProps, "place"> & { wanted: number }) {
  const look = faces[face];
  const [bridle, setBridle] = useState(wanted);
  const [asked, setAsked] = useState<(typeof ASKED)[number] | null>(null);
  const end = (soft: boolean) => {
    say({ kind: "rein-share", bridle, soft, ...(asked ? { asked } : {}) });
    setAsked(null);
  };
  const move = (by: number) => setBridle(Math.min(100, Math.max(0, bridle + by)));
  useKeys(keyed ? { "+": () => move(5), "-": () => move(-5), g: () => end(true), n: () => end(false) } : {});
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
        <Big face={face} hint="G" onClick={() => end(true)}>
          Soft at it
        </Big>
        <Big face={face} hint="N" onClick={() => end(false)}>
          Stiff at it
        </Big>
      </Box>
    </>
  );
}
