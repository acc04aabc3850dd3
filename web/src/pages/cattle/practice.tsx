import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { mannerName } from "../../parts/cattle-words";
import { useKeys } from "../../parts/keys";
import { OneOf } from "../../parts/one-of";
import { Panel } from "../../parts/panel";
import { FormTrouble } from "../../parts/states";
import { inkSoft, slab } from "../../theme/tokens";
import { PracticePen } from "./practice-pen";
import { usePractice } from "./use-practice";

const manners = (["slow", "honest", "bob-and-weave", "running"] as const).map(
  (m) => [m, mannerName[m]] as const,
);
const speeds = [
  [1, "True speed"],
  [0.5, "Half"],
] as const;
/** Feet that an arrow moves where the horse is wanted. */
const NUDGE = 3;

const stanceSays: Record<Schemas["Stance"], string> = {
  lost: "The cow is back with the herd.",
  "too-near": "Too near: give it room.",
  behind: "Behind: get to its head.",
  "past-its-head": "Past its head: wait for it.",
  "far-off": "Far off: step up a little.",
  "in-position": "In position.",
};

/** A cow and a horse in a pen, to practise where to be: the rider places the horse by pointer or by arrows. */
export function Practice() {
  const pen = usePractice();
  const [manner, setManner] = useState<Schemas["Manner"]>("slow");
  const [seed, setSeed] = useState(1);
  const { seen, target, running, place } = pen;
  const nudge = (dx: number, dy: number) => target && place(target.x + dx, target.y + dy);
  useKeys({
    ArrowLeft: () => nudge(-NUDGE, 0),
    ArrowRight: () => nudge(NUDGE, 0),
    ArrowUp: () => nudge(0, NUDGE),
    ArrowDown: () => nudge(0, -NUDGE),
    n: () => start(),
  });
  const start = () => {
    void pen.begin(manner, seed);
    setSeed(seed + 1);
  };
  const share = seen && seen.now.step > 0 ? Math.round((100 * seen.now.held) / seen.now.step) : null;
  const [turns = 0, right = 0] = seen?.now.turns ?? [];
  return (
    <Box sx={{ display: "grid", gap: 1.5, maxWidth: 900 }}>
      <Typography>
        Keep the cow from the herd. Behind its shoulder you drive it on; at its head it stops and turns; too
        near, and it comes undone.
      </Typography>
      <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap", alignItems: "center" }}>
        <OneOf
          label="The cow"
          of={manners}
          picked={manner as (typeof manners)[number][0]}
          onPick={setManner}
        />
        <OneOf label="Speed" of={speeds} picked={pen.speed as 1 | 0.5} onPick={pen.setSpeed} />
        <Button variant="contained" onClick={start}>
          {seen ? "Another cow (N)" : "Begin (N)"}
        </Button>
        {seen && !seen.now.lost && (
          <Button variant="outlined" onClick={() => pen.setRunning(!running)}>
            {running ? "Pause" : "Go on"}
          </Button>
        )}
      </Box>
      <FormTrouble error={pen.error} />
      {seen && (
        <Panel name="The pen" tight>
          <Box sx={{ display: "flex", gap: 2, flexWrap: "wrap", alignItems: "baseline", mb: 1 }}>
            <Box role="status" sx={{ fontFamily: slab, fontWeight: 700, fontSize: "1.25rem", minWidth: 260 }}>
              {stanceSays[seen.stance]}
            </Box>
            <span>
              Held {share ?? 0} % of {Math.round(seen.seconds)} s
            </span>
            <span>
              {right} of {turns} turns in position
            </span>
          </Box>
          <PracticePen of={seen} target={target} onPlace={place} />
        </Panel>
      )}
      <Typography sx={{ color: inkSoft, fontSize: "0.95rem" }}>
        Point where the horse should be, or use the arrows. The horse answers a quarter of a second late. A
        simulated cow: it knows nothing of dust, footing or a bad day. Begin on real cattle quietly, with a
        helper and room to get away.
      </Typography>
    </Box>
  );
}
