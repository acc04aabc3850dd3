import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";

/** How far a device leans in the plane of its screen, degrees, from what it feels of gravity. */
export const lean = (x: number, y: number) => (Math.atan2(x, y) * 180) / Math.PI;

/** How far it turned from one lean to another, degrees, the shorter way round, whichever way. */
export function turnedBetween(from: number, to: number): number {
  const way = Math.abs(to - from) % 360;
  return Math.round(Math.min(way, 360 - way) * 10) / 10;
}

/** Measures a turn with the phone laid on the shank: once at rest, once with the strap snug. */
export function Tilt({ onMeasured }: { onMeasured: (degrees: number) => void }) {
  const [now, setNow] = useState<number | null>(null);
  const [rest, setRest] = useState<number | null>(null);
  useEffect(() => {
    const hear = (event: DeviceMotionEvent) => {
      const g = event.accelerationIncludingGravity;
      if (g?.x !== null && g?.x !== undefined && g.y !== null) setNow(lean(g.x, g.y));
    };
    window.addEventListener("devicemotion", hear);
    return () => window.removeEventListener("devicemotion", hear);
  }, []);
  if (now === null)
    return (
      <Typography>
        On a phone, its tilt can be used: open this form there, or type what an angle finder says.
      </Typography>
    );
  return (
    <Box sx={{ display: "flex", gap: 1.5, alignItems: "center", flexWrap: "wrap" }}>
      <Button variant="outlined" onClick={() => setRest(now)}>
        Bit at rest: zero
      </Button>
      {rest !== null && (
        <Button variant="outlined" onClick={() => onMeasured(turnedBetween(rest, now))}>
          Strap snug: {turnedBetween(rest, now).toFixed(0)}°
        </Button>
      )}
    </Box>
  );
}
