import Box from "@mui/material/Box";
import { useState } from "react";
import { useKeys } from "../../parts/keys";
import { faces } from "../../theme/tokens";
import type { ControlProps } from "./count-pad";
import { Big } from "./big";

const ASKED = ["bears", "roots", "tired", "scared", "sharp"] as const;

/** A stretch at some share of the bridle rein, and who asked for it. */
export function Share({ face, keyed, say, wanted }: Omit<ControlProps, "place"> & { wanted: number }) {
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
