import Box from "@mui/material/Box";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { calledSoFar, type ExerciseLog } from "../../parts/exercise-log";
import { onTape } from "../../parts/lengths";
import { useKeys } from "../../parts/keys";
import { useMe } from "../../parts/me";
import { faces, oxblood, pine, slab, white, type Face } from "../../theme/tokens";
import { Big } from "./big";
import type { RideFigure } from "./use-ride-figure";

type Call = Schemas["CallOut"];

/** A figure called one move at a time: what to ride now, what comes then, and one tap for what came of it. */
export function CallPads({ figure, log, face }: { figure: RideFigure; log: ExerciseLog; face: Face }) {
  const look = faces[face];
  const [anew, setAnew] = useState(false);
  const calls = figure.ridden?.calls ?? [];
  const called = calledSoFar(log.events, figure.name);
  const at = anew ? 0 : called.next;
  const now = calls[at];
  const next = calls[at + 1];
  const tell = (answer: "done" | "again") => {
    if (!now) return;
    setAnew(false);
    log.log({ kind: "move", figure: figure.name, call: at, says: now.says, answer });
  };
  // A clicker or a headset in the other hand sends the keys of a presentation.
  useKeys({
    " ": () => tell("done"),
    PageDown: () => tell("done"),
    ArrowRight: () => tell("done"),
    PageUp: () => tell("again"),
    ArrowLeft: () => tell("again"),
  });
  if (!now)
    return (
      <Box role="group" aria-label="Calls" sx={{ display: "grid", gap: "6px", alignContent: "center" }}>
        <Box role="status" sx={{ fontFamily: slab, fontWeight: 700, fontSize: "1.7rem", lineHeight: 1.15 }}>
          All {calls.length} called.
        </Box>
        <Box sx={{ fontSize: "1.1rem" }}>{againSays(called.again, calls.length)}</Box>
        <Big face={face} onClick={() => setAnew(true)}>
          From the start
        </Big>
      </Box>
    );
  const times = called.again.filter((says) => says === now.says).length;
  return (
    <Box
      role="group"
      aria-label="Calls"
      sx={{ display: "grid", gridTemplateRows: "minmax(0, 1fr) auto auto", gap: "6px", minHeight: 0 }}
    >
      <Box
        role="status"
        sx={{
          background: look.panel,
          borderLeft: `9px solid ${now.hand ? look[now.hand] : look.line}`,
          p: 1.5,
          minHeight: 0,
          overflow: "auto",
          display: "grid",
          alignContent: "center",
          gap: 0.75,
        }}
      >
        <Box sx={{ color: look.muted, fontWeight: 650 }}>
          {at + 1} of {calls.length}
          {times > 0 && `, try ${times + 1}`}
        </Box>
        <Box
          sx={{ fontFamily: slab, fontWeight: 700, fontSize: "clamp(1.9rem, 9vw, 3.2rem)", lineHeight: 1.05 }}
        >
          {now.says}
        </Box>
        <Measure of={now} />
        {now.note && <Box sx={{ fontSize: "1.1rem" }}>{now.note}</Box>}
      </Box>
      <Box sx={{ minHeight: 26, color: look.muted, fontSize: "1.05rem" }}>
        {next ? `Then: ${next.says}` : "That is the last one."}
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "2fr 1fr", gap: "6px" }}>
        <Pad colour={pine} onClick={() => tell("done")} says="Done" />
        <Pad colour={oxblood} onClick={() => tell("again")} says="Again" />
      </Box>
    </Box>
  );
}

function Measure({ of }: { of: Call }) {
  const { units } = useMe().barn;
  if (!of.measure) return null;
  const { of: kind, metres } = of.measure;
  const says = {
    radius: `${onTape(units, 2 * metres)} across`,
    length: onTape(units, metres),
    spacing: `${onTape(units, metres)} apart`,
  }[kind];
  return <Box sx={{ fontSize: "1.25rem", fontWeight: 650 }}>{says}</Box>;
}

function Pad(props: { colour: string; says: string; onClick: () => void }) {
  return (
    <Box
      component="button"
      type="button"
      onClick={(e) => {
        props.onClick();
        e.currentTarget.blur();
      }}
      sx={{
        font: "inherit",
        fontFamily: slab,
        fontWeight: 700,
        fontSize: "1.6rem",
        minHeight: 116,
        border: 0,
        color: white,
        background: props.colour,
        cursor: "pointer",
        touchAction: "manipulation",
      }}
    >
      {props.says}
    </Box>
  );
}

/** `Every one at the first try.`, `2 again: Roll back left, Circle right.` */
function againSays(again: string[], all: number): string {
  if (again.length === 0) return "Every one at the first try.";
  const which = [...new Set(again)];
  return `${all - which.length} of ${all} at the first try. Again: ${which.join("; ")}.`;
}
