import Box from "@mui/material/Box";
import type { CattleEntry } from "../../parts/cattle-log";
import { many } from "../../parts/words";
import { faces, oxblood, type Face } from "../../theme/tokens";

/** The turns of a ride left and right about the middle: full where it was right, hollow where not; a cross where a cow was lost. */
export function TurnDots({ events, face }: { events: CattleEntry[]; face: Face }) {
  const look = faces[face];
  const turns = events.flatMap((e) => (e.event.kind === "turn" ? [e.event] : []));
  const lost = events.filter((e) => e.event.kind === "lost").length;
  const right = turns.filter((t) => t.stopped === "even" && t.through).length;
  if (turns.length === 0 && lost === 0)
    return <Box sx={{ color: look.muted }}>Quietly: settle the herd first.</Box>;
  const row = (way: "left" | "right") => turns.filter((t) => t.way === way);
  const dots = (way: "left" | "right") =>
    row(way).map((t, n) => (
      <circle
        key={n}
        cx={way === "left" ? 94 - 11 * n : 106 + 11 * n}
        cy={9}
        r={4}
        fill={t.stopped === "even" && t.through ? look[way] : "none"}
        stroke={t.through ? look[way] : oxblood}
        strokeWidth={2}
      />
    ));
  return (
    <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
      <svg viewBox="0 0 200 18" width={200} height={18} aria-hidden="true">
        <path d="M100 1v16" stroke={look.line} strokeWidth={2} />
        {dots("left")}
        {dots("right")}
      </svg>
      <span>
        {right} of {many(turns.length, "turn")} right{lost > 0 && `, ${many(lost, "cow")} lost`}
      </span>
    </Box>
  );
}
