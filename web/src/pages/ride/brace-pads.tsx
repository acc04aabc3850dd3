import Box from "@mui/material/Box";
import type { Schemas } from "../../api/client";
import { askAnswers, entriesOf, nextReins, type TackLog } from "../../parts/tack-log";
import { many } from "../../parts/words";
import { faces, gloveTarget, oxblood, pine, slab, white, type Face } from "../../theme/tokens";

/** The test for a brace as a mode of the pads: on how many reins to ask next, and what the horse did. */
export function BracePads(props: { log: TackLog; ride: string; gait: Schemas["Gait"]; face: Face }) {
  const { log, ride, gait } = props;
  const look = faces[props.face];
  const asks = entriesOf(log.events, "ask").filter(({ event }) => event.gait === gait);
  const reins = nextReins(log.seen, log.waiting, ride, gait);
  const ones = asks.filter(({ event }) => event.reins === "one").length;
  // Right and left by turns.
  const side = ones % 2 === 0 ? "left" : "right";
  const last = asks.at(-1)?.entry;
  if (!reins)
    return (
      <Box role="status" sx={{ alignSelf: "center", textAlign: "center", color: look.muted }}>
        {log.seen ? "Enough of the test for one ride." : "The test's order is not on this device yet."}
      </Box>
    );
  const says = reins === "two" ? "Both reins, low and wide" : `One rein: the ${side}`;
  return (
    <Box
      role="group"
      aria-label="One rein or two"
      sx={{ display: "grid", gridTemplateRows: "auto minmax(0, 1fr) auto", gap: "6px", minHeight: 0 }}
    >
      <Box sx={{ display: "flex", gap: 1, alignItems: "baseline", justifyContent: "space-between" }}>
        <Box role="status" sx={{ fontFamily: slab, fontWeight: 700, fontSize: "1.35rem", lineHeight: 1.15 }}>
          {says}
        </Box>
        <Box
          component="button"
          type="button"
          disabled={!last}
          onClick={() => last && log.takeBack(last)}
          sx={{
            font: "inherit",
            minHeight: gloveTarget,
            px: 1,
            border: 0,
            background: "none",
            color: look.muted,
            textDecoration: last ? "underline" : "none",
            cursor: last ? "pointer" : "default",
            flex: "none",
          }}
        >
          {many(asks.length, "ask")} at the {gait}
          {last ? ": take back" : ""}
        </Box>
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "6px", minHeight: 0 }}>
        {askAnswers.map(({ name, answer }) => (
          <Box
            key={name}
            component="button"
            type="button"
            onClick={() => log.log({ kind: "ask", gait, reins, ...answer })}
            sx={{
              font: "inherit",
              fontFamily: slab,
              fontWeight: 700,
              fontSize: "1.25rem",
              minHeight: 60,
              border: 0,
              color: white,
              background: answer.braced ? oxblood : pine,
              cursor: "pointer",
              touchAction: "manipulation",
            }}
          >
            {name}
          </Box>
        ))}
      </Box>
      <Box sx={{ color: look.muted, fontSize: "0.95rem" }}>
        Softly, and let go at once. No two reins straight back while it braces; a sore mouth is for the
        dentist or vet.
      </Box>
    </Box>
  );
}
