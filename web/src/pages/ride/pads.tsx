import Box from "@mui/material/Box";
import { useCallback, useEffect, useRef, useState } from "react";
import type { Side } from "../../parts/words";
import { typing } from "../../parts/keys";
import { type Face, faces, slab, white } from "../../theme/tokens";

/** Shorter than this is a tap and not a hold: the rep counts, its time is not known. */
const TAP_MS = 150;

type Held = { side: Side; from: number; by: string } | null;

/** The pads: hold from ask to give. Pointer anywhere on a pad, or F, J and space. */
export function Pads(props: {
  sides: Side[];
  face: Face;
  onAsk: (side: Side, seconds: number | null) => void;
  blocked: boolean;
  /** Seconds at which the device buzzes, where it can. */
  buzzAt: number | null;
}) {
  const { sides, onAsk, blocked, buzzAt } = props;
  const [held, setHeld] = useState<Held>(null);
  const now = useRef<Held>(null);
  const buzz = useRef<ReturnType<typeof setTimeout>>(undefined);
  const press = useCallback(
    (side: Side, by: string) => {
      if (now.current || blocked) return;
      now.current = { side, from: performance.now(), by };
      setHeld(now.current);
      clearTimeout(buzz.current);
      if (buzzAt !== null) buzz.current = setTimeout(() => navigator.vibrate?.(60), buzzAt * 1000);
    },
    [blocked, buzzAt],
  );
  const release = useCallback(
    (by: string, counts: boolean) => {
      const was = now.current;
      if (was?.by !== by) return;
      now.current = null;
      clearTimeout(buzz.current);
      setHeld(null);
      const ms = performance.now() - was.from;
      if (counts) onAsk(was.side, ms < TAP_MS ? null : Math.round(ms / 100) / 10);
    },
    [onAsk],
  );
  useEffect(() => {
    const both = sides.includes("both");
    const of: Record<string, Side> = both ? { f: "both", j: "both", " ": "both" } : { f: "left", j: "right" };
    const down = (e: KeyboardEvent) => {
      const side = of[e.key.toLowerCase()];
      if (!side || e.repeat || e.ctrlKey || e.metaKey || e.altKey || typing(e)) return;
      e.preventDefault();
      press(side, `key ${e.code}`);
    };
    const up = (e: KeyboardEvent) => release(`key ${e.code}`, true);
    // A key let go of in another window never comes back as keyup: that ask is not a rep.
    const away = () => now.current && release(now.current.by, false);
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    window.addEventListener("blur", away);
    return () => {
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
      window.removeEventListener("blur", away);
    };
  }, [sides, press, release]);
  return (
    <Box
      sx={{ display: "grid", gridTemplateColumns: `repeat(${sides.length}, 1fr)`, gap: "6px", minHeight: 0 }}
    >
      {sides.map((side) => (
        <Pad
          key={side}
          side={side}
          face={props.face}
          held={held?.side === side ? held.from : null}
          press={press}
          release={release}
        />
      ))}
    </Box>
  );
}

const padName: Record<Side, string> = { left: "Left rein", right: "Right rein", both: "Both reins" };
const padKey: Record<Side, string> = { left: "F", right: "J", both: "space" };

function Pad(props: {
  side: Side;
  face: Face;
  held: number | null;
  press: (side: Side, by: string) => void;
  release: (by: string, counts: boolean) => void;
}) {
  const { side, held, press, release } = props;
  const look = faces[props.face];
  return (
    <Box
      component="button"
      type="button"
      aria-label={`${padName[side]}: hold from ask to give`}
      aria-pressed={held !== null}
      onPointerDown={(e) => {
        e.preventDefault();
        e.currentTarget.setPointerCapture(e.pointerId);
        press(side, `pointer ${e.pointerId}`);
      }}
      onPointerUp={(e) => release(`pointer ${e.pointerId}`, true)}
      onPointerCancel={(e) => release(`pointer ${e.pointerId}`, false)}
      onContextMenu={(e) => e.preventDefault()}
      onKeyDown={(e) => e.key === "Enter" && !e.repeat && press(side, "key Enter")}
      onKeyUp={(e) => e.key === "Enter" && release("key Enter", true)}
      sx={{
        font: "inherit",
        color: white,
        background: look[side],
        border: 0,
        cursor: "pointer",
        touchAction: "none",
        userSelect: "none",
        WebkitUserSelect: "none",
        minHeight: 120,
        position: "relative",
        boxShadow: held !== null ? `inset 0 0 0 10px ${white}` : "none",
      }}
    >
      <Box component="span" sx={{ display: "block", fontFamily: slab, fontWeight: 700, fontSize: "1.7rem" }}>
        {padName[side]}
      </Box>
      <Box
        component="span"
        sx={{ display: "block", fontSize: "1.5rem", fontWeight: 600, minHeight: "2.2rem" }}
      >
        {held !== null ? <Running from={held} /> : "hold to ask"}
      </Box>
      <Box
        component="span"
        sx={{
          display: { xs: "none", sm: "inline-block" },
          border: `1.5px solid ${white}`,
          px: 1,
          fontWeight: 700,
        }}
      >
        {padKey[side]}
      </Box>
    </Box>
  );
}

function Running({ from }: { from: number }) {
  const [ms, setMs] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => setMs(performance.now() - from), 100);
    return () => clearInterval(timer);
  }, [from]);
  return <>{(ms / 1000).toFixed(1)} s</>;
}
