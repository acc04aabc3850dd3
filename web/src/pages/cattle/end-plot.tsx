import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../../api/client";
import { many } from "../../parts/words";
import { ink, inkSoft, oxblood, pine, rule } from "../../theme/tokens";

const endName = { left: "Left end", middle: "In the middle", right: "Right end" } as const;
const WIDE = 250;
const HIGH = 92;
/** Feet from the middle of the plot to its edge. */
const FEET = 6;

/** The stops at an end in order: past above the line, short below; full where it waited, hollow where it guessed. */
export function EndPlot(props: { habit: Schemas["EndHabitOut"]; stops: Schemas["FlagStopOut"][] }) {
  const { habit } = props;
  const here = props.stops.filter(({ stop }) => stop.end === habit.end).slice(-12);
  const y = (tenths: number) =>
    HIGH / 2 - (Math.max(-FEET, Math.min(FEET, tenths / 10)) / FEET) * (HIGH / 2 - 8);
  const past = Math.abs(habit.past).toFixed(1);
  const says =
    habit.stops === 0
      ? "no stops yet"
      : `${many(habit.stops, "stop")}, ${past} ft ${habit.past < 0 ? "short" : "past"} on average` +
        (habit.guesses > 0 ? `, ${many(habit.guesses, "guess", "guesses")}` : "");
  return (
    <Box sx={{ minWidth: 0 }}>
      <Typography sx={{ fontWeight: 650 }}>{endName[habit.end]}</Typography>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        width="100%"
        style={{ maxWidth: WIDE, display: "block" }}
        aria-hidden="true"
      >
        <rect x={0} y={y(10)} width={WIDE} height={y(-10) - y(10)} fill={rule} opacity={0.6} />
        <path d={`M0 ${HIGH / 2}h${WIDE}`} stroke={ink} strokeWidth={1.5} />
        {here.map(({ stop, right }, n) => (
          <circle
            key={n}
            cx={12 + n * 20}
            cy={y(stop.past)}
            r={5}
            fill={stop.guessed ? "none" : right ? pine : oxblood}
            stroke={right ? pine : oxblood}
            strokeWidth={2}
          />
        ))}
      </svg>
      <Typography sx={{ color: inkSoft, fontSize: "0.95rem" }}>{says}</Typography>
      {habit.remedy && (
        <Typography sx={{ fontSize: "0.95rem", "&::first-letter": { textTransform: "uppercase" } }}>
          <b>{habit.remedy}</b>
        </Typography>
      )}
    </Box>
  );
}
