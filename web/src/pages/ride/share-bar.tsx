import Box from "@mui/material/Box";
import { styled } from "@mui/material/styles";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { entriesOf, type TackLog } from "../../parts/tack-log";
import { faces, gloveTarget, ink, leather, slab, white, type Face } from "../../theme/tokens";
import { Big } from "./big";

type Asker = Schemas["Asker"];

/** Who asks for another share. A second tap on a button says the second of its words. */
const buttons: [Asker, string][][] = [
  [
    ["bears", "Bears"],
    ["roots", "Roots"],
  ],
  [["sharp", "Sharp"]],
  [
    ["tired", "Tired"],
    ["scared", "Scared"],
  ],
  [["rider", "Rider"]],
];
/** Where most horses begin. */
const A_TENTH = 10;
const STEP = 5;

const thumb = {
  width: 44,
  height: gloveTarget - 4,
  borderRadius: 0,
  background: white,
  border: `4px solid ${ink}`,
};
/** As high as a glove wants it. */
const Range = styled("input")({
  appearance: "none",
  width: "100%",
  height: gloveTarget,
  margin: 0,
  cursor: "pointer",
  touchAction: "none",
  "&::-webkit-slider-thumb": { appearance: "none", ...thumb },
  "&::-moz-range-thumb": { ...thumb, boxSizing: "border-box" },
});

/** What a tap on a button says: its first word, then its second, then nothing. */
export function tapped(button: [Asker, string][], now: Asker | null): Asker | null {
  const at = button.findIndex(([asker]) => asker === now);
  return button[at + 1]?.[0] ?? null;
}

/** The two-rein from the saddle: the share on the bridle rein by thumb, and who asked. */
export function ShareBar(props: { log: TackLog; face: Face }) {
  const { log, face } = props;
  const look = faces[face];
  const shares = entriesOf(log.events, "share");
  const last = shares.at(-1);
  const begin = log.seen?.share;
  const now = last?.event.bridle ?? begin?.bridle ?? A_TENTH;
  const [drag, setDrag] = useState<number | null>(null);
  // Said before the move that it is of.
  const [waits, setWaits] = useState<Asker | null>(null);
  // The first share is what the ride begins with: nobody asked for it.
  const moved = shares.length > 1 ? last : undefined;
  const asked = waits ?? moved?.event.asked ?? null;
  const move = (bridle: number) => {
    setDrag(null);
    if (last && bridle === now) return;
    log.log({ kind: "share", bridle, asked: last ? waits : null });
    setWaits(null);
  };
  const ask = (button: [Asker, string][]) => {
    const says = tapped(button, asked);
    const isOfLast = moved && !waits && (!moved.event.asked || button.some(([a]) => a === moved.event.asked));
    if (isOfLast) log.correct(moved.entry, { ...moved.event, asked: says });
    else setWaits(says);
  };
  const shown = drag ?? now;
  return (
    <Box component="section" aria-label="The two-rein" sx={{ display: "grid", gap: "6px", mb: "6px" }}>
      <Box sx={{ display: "flex", gap: "6px", alignItems: "center" }}>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <Box sx={{ fontFamily: slab, fontWeight: 700, fontSize: "1.3rem", lineHeight: 1.1 }}>
            {shown} % bridle
          </Box>
          <Box sx={{ color: look.muted, fontSize: "0.95rem", lineHeight: 1.15 }}>
            {last ? `${100 - shown} % bosal` : (begin?.why ?? "A tenth on the bridle is where most begin")}
          </Box>
        </Box>
        {last ? (
          <Big face={face} onClick={() => log.takeBack(last.entry)} label="Take the last share back">
            Take back
          </Big>
        ) : (
          <Big face={face} onClick={() => move(now)}>{`Begin at ${now}`}</Big>
        )}
      </Box>
      <Range
        type="range"
        min={0}
        max={100}
        step={STEP}
        value={shown}
        aria-label="Share on the bridle rein"
        aria-valuetext={`${shown} percent on the bridle`}
        onChange={(e) => setDrag(Number(e.currentTarget.value))}
        onPointerUp={(e) => move(Number(e.currentTarget.value))}
        onKeyUp={(e) => drag !== null && move(Number(e.currentTarget.value))}
        onBlur={() => drag !== null && move(drag)}
        style={{
          border: `2px solid ${look.line}`,
          background: `linear-gradient(90deg, ${leather} ${shown}%, ${look.panel} ${shown}%)`,
        }}
      />
      <Box
        role="group"
        aria-label="Who asked"
        sx={{ display: "grid", gridTemplateColumns: "repeat(4, 1fr)", gap: "6px" }}
      >
        {buttons.map((button) => {
          const on = button.find(([asker]) => asker === asked);
          const name = (on ? [on] : button).map(([, word]) => word).join(" / ");
          return (
            <Big key={name + button[0]?.[0]} face={face} pressed={!!on} onClick={() => ask(button)}>
              {name}
            </Big>
          );
        })}
      </Box>
    </Box>
  );
}
