import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useRef } from "react";
import { useKeys } from "../../parts/keys";
import { denim, oxblood, rust, slab, white } from "../../theme/tokens";
import type { FlagDrive } from "./use-flag-drive";

/** Two big pads, held to move; a clicker's or headset's keys do the same. */
export function Remote(props: { drive: FlagDrive; speed: number; onTake: () => void }) {
  const { drive, speed } = props;
  const held = useRef<"left" | "right" | null>(null);
  const go = (way: "left" | "right") => {
    if (held.current === way) return;
    held.current = way;
    props.onTake();
    drive.give({ kind: way, speed });
  };
  const rest = () => {
    if (!held.current) return;
    held.current = null;
    drive.give({ kind: "stop" });
  };
  const stop = () => {
    held.current = null;
    props.onTake();
    drive.give({ kind: "emergency" });
  };
  useKeys({ x: stop });
  const isOut = drive.reading?.state === "emergency";
  const pad = (way: "left" | "right", colour: string) => (
    <Box
      component="button"
      type="button"
      disabled={isOut || drive.cut}
      aria-label={`Hold: the flag goes ${way}`}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        go(way);
      }}
      onPointerUp={rest}
      onPointerCancel={rest}
      onKeyDown={(e) => (e.key === " " || e.key === "Enter") && (e.preventDefault(), go(way))}
      onKeyUp={rest}
      onBlur={rest}
      onContextMenu={(e) => e.preventDefault()}
      sx={{
        font: "inherit",
        fontFamily: slab,
        fontWeight: 700,
        fontSize: "1.3rem",
        flex: { xs: "1 1 40%", md: 1 },
        minHeight: 84,
        border: 0,
        color: white,
        background: colour,
        cursor: "pointer",
        touchAction: "none",
        userSelect: "none",
        "&:disabled": { opacity: 0.45, cursor: "default" },
      }}
    >
      {way === "left" ? "Left" : "Right"}
      <Box component="span" sx={{ display: "block", fontSize: "0.95rem", fontWeight: 400 }}>
        hold to move
      </Box>
    </Box>
  );
  return (
    <Box role="group" aria-label="Remote" sx={{ display: "flex", gap: "6px", mt: 1, flexWrap: "wrap" }}>
      {pad("left", denim)}
      {pad("right", rust)}
      {isOut ? (
        <Button
          variant="outlined"
          onClick={() => drive.give({ kind: "release" })}
          sx={{ minWidth: 150, minHeight: 84 }}
        >
          Let it go again
        </Button>
      ) : (
        <Button
          variant="contained"
          onClick={stop}
          sx={{
            background: oxblood,
            minWidth: 150,
            minHeight: { xs: 60, md: 84 },
            flexGrow: { xs: 1, md: 0 },
            "&:hover": { background: oxblood },
          }}
        >
          Emergency stop (X)
        </Button>
      )}
    </Box>
  );
}
