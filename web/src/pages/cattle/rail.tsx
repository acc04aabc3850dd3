import Box from "@mui/material/Box";
import type { Schemas } from "../../api/client";
import { ink, inkSoft, leather, marigold, oxblood, rule } from "../../theme/tokens";

const WIDE = 1000;
const EDGE = 40;

/** The line across the pen: two posts, the rope and the flag where it is; where the programme takes it next. */
export function Rail(props: {
  half: number;
  at: number | null;
  next: number | null;
  state: Schemas["FlagStateOut"] | null;
}) {
  const { half, at, next } = props;
  const x = (feet: number) => WIDE / 2 + (feet / half) * (WIDE / 2 - EDGE);
  const marks = Array.from({ length: 11 }, (_, n) => (n - 5) * (half / 5));
  const where =
    at === null
      ? "not known yet"
      : `${Math.abs(at).toFixed(1)} ft ${at < 0 ? "left" : "right"} of the middle`;
  return (
    <Box sx={{ overflow: "hidden", "& text": { display: { xs: "none", md: "inline" } } }}>
      <svg viewBox={`0 0 ${WIDE} 170`} width="100%" role="img" aria-label={`The flag is ${where}`}>
        <path d={`M${x(-half)} 30v118M${x(half)} 30v118`} stroke={leather} strokeWidth={14} />
        <path d={`M${x(-half)} 62H${x(half)}`} stroke={ink} strokeWidth={2.5} />
        {[-half / 2, half / 2].map((quarter) => (
          <path
            key={quarter}
            d={`M${x(quarter)} 46v92`}
            stroke={rule}
            strokeWidth={2}
            strokeDasharray="6 7"
          />
        ))}
        {marks.map((feet) => (
          <text key={feet} x={x(feet)} y={164} textAnchor="middle" fontSize={19} fill={inkSoft}>
            {Math.abs(Math.round(feet))}
          </text>
        ))}
        {next !== null && (
          <path d={`M${x(next)} 40l-13 -24h26z`} fill={marigold} stroke={ink} strokeWidth={1.5} />
        )}
        {at !== null && (
          <g transform={`translate(${x(at)} 62)`}>
            <circle r={7} fill={ink} />
            <path
              d="M0 8c-20 4 -24 20 -24 34s8 30 24 30 24 -14 24 -30 -6 -30 -24 -34z"
              fill={props.state === "emergency" ? inkSoft : oxblood}
            />
          </g>
        )}
      </svg>
    </Box>
  );
}
