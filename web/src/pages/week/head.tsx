import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { whole } from "../../parts/words";
import { ink, inkSoft, marigold, marigoldDark, paper, rule, sageDark } from "../../theme/tokens";
import type { Week } from "./use-week";

const monthDay = new Intl.DateTimeFormat("en-US", { month: "long", day: "numeric", timeZone: "UTC" });

/** Which week this is, how to get to the others, and how its plan stands. */
export function Title({
  week,
  planning,
  scoreBefore,
}: {
  week: Week;
  planning: boolean;
  scoreBefore: number | null;
}) {
  const { score } = week.judged;
  const delta = scoreBefore === null ? 0 : score - scoreBefore;
  return (
    <Box sx={{ flex: "1 0 100%", display: "flex", alignItems: "center", gap: 2, flexWrap: "wrap" }}>
      <Box sx={{ display: "flex", alignItems: "center" }}>
        <Step name="The week before" to={week.previous}>
          ‹
        </Step>
        <Typography variant="h1">Week of {monthDay.format(new Date(`${week.start}T00:00:00Z`))}</Typography>
        <Step name="The week after" to={week.next}>
          ›
        </Step>
      </Box>
      <Box sx={{ display: "flex", gap: 1.5, color: inkSoft, alignItems: "center", flexWrap: "wrap" }}>
        <Stamp state={week.state} />
        <span className="no-print">
          {week.rides.length} rides
          {!planning && `, score ${whole(score)}`}
          {!planning && delta !== 0 && ` (${delta > 0 ? "+" : ""}${whole(delta)})`}
        </span>
      </Box>
    </Box>
  );
}

/** A way to another week. */
function Step({ name, to, children }: { name: string; to: string; children: React.ReactNode }) {
  return (
    <Box
      component={Link}
      className="no-print"
      to={`/week/${to}`}
      aria-label={name}
      sx={{
        width: 44,
        minHeight: 44,
        display: "grid",
        placeItems: "center",
        color: ink,
        textDecoration: "none",
        fontSize: "1.8rem",
      }}
    >
      {children}
    </Box>
  );
}

/** How far the plan is, and who sees it. */
function Stamp({ state }: { state: "empty" | "draft" | "published" }) {
  const told = { empty: "Not planned", draft: "Draft: only you see it", published: "Published" }[state];
  const colour = state === "published" ? sageDark : state === "draft" ? marigoldDark : inkSoft;
  return (
    <Box component="span" sx={{ border: `1.5px solid ${colour}`, color: colour, px: 0.75, fontWeight: 650 }}>
      {told}
    </Box>
  );
}

/** Something said above the week. */
export function Line({ edge, children }: { edge: string; children: React.ReactNode }) {
  return (
    <Box
      role="status"
      className="no-print"
      sx={{
        display: "flex",
        gap: 2,
        alignItems: "center",
        justifyContent: "space-between",
        borderLeft: `6px solid ${edge}`,
        background: paper,
        px: 1.5,
        py: 0.75,
        mb: 0.75,
      }}
    >
      {children}
    </Box>
  );
}

/** A plan under way. */
export function Planning({
  progress,
  onStop,
}: {
  progress: { rounds: number; of: number; score: number | null };
  onStop: () => void;
}) {
  return (
    <Box role="status" className="no-print" sx={{ display: "flex", gap: 2, alignItems: "center", mb: 1 }}>
      <Box sx={{ flex: 1, height: 12, border: `1.5px solid ${ink}`, background: paper }}>
        <Box
          sx={{
            height: "100%",
            background: marigold,
            width: `${(100 * progress.rounds) / progress.of}%`,
            borderRight: `1px solid ${rule}`,
          }}
        />
      </Box>
      <span>Planning{progress.score !== null && `: score ${whole(progress.score)} so far`}</span>
      <Button variant="outlined" onClick={onStop}>
        Stop
      </Button>
    </Box>
  );
}
