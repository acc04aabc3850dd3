import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../../api/client";
import { day, many } from "../../parts/words";
import { ink, inkSoft, leatherSoft, oxblood, pine, rule } from "../../theme/tokens";

type Ride = Schemas["SharedRideOut"];
const HIGH = 120;
/** Of one ride's strip. */
const WIDE = 9;
const MOST = 96;

/** The share at each moment of a ride, as a line of seconds and per cent. */
export function steps(ride: Ride): [number, number][] {
  const out: [number, number][] = [[0, ride.begins]];
  for (const move of ride.moves) {
    out.push([move.at, out.at(-1)?.[1] ?? ride.begins], [move.at, move.bridle]);
  }
  out.push([ride.seconds, out.at(-1)?.[1] ?? ride.begins]);
  return out;
}

/** The last rides, a strip each: the share as it moved through the ride, filled, with who asked which way below. */
export function ShareStrip({ rides }: { rides: Ride[] }) {
  const shown = rides.slice(-MOST);
  const wide = Math.max(shown.length, 30) * (WIDE + 1);
  const y = (percent: number) => HIGH - (percent / 100) * HIGH;
  const first = shown[0];
  const last = shown.at(-1);
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <Typography component="figcaption" sx={{ fontWeight: 650, mb: 0.5 }}>
        On the bridle rein, a strip a ride
      </Typography>
      <svg
        viewBox={`-34 -8 ${wide + 40} ${HIGH + 48}`}
        width="100%"
        role="img"
        aria-label={`${many(shown.length, "ride")}, from ${Math.round(100 * (first?.mean ?? 0))} to ${Math.round(100 * (last?.mean ?? 0))} percent on the bridle`}
      >
        {[0, 50, 100].map((share) => (
          <g key={share}>
            <line x1={0} x2={wide} y1={y(share)} y2={y(share)} stroke={rule} />
            <text x={-6} y={y(share) + 4} fontSize={11} textAnchor="end" fill={inkSoft}>
              {share}
            </text>
          </g>
        ))}
        {shown.map((ride, n) => {
          const x = n * (WIDE + 1);
          const line = steps(ride).map(([at, share]) => `${x + (at / ride.seconds) * WIDE},${y(share)}`);
          return (
            <g key={ride.ride_id}>
              <path d={`M${x},${HIGH} L${line.join(" L")} L${x + WIDE},${HIGH} Z`} fill={leatherSoft} />
              <line
                x1={x}
                x2={x + WIDE}
                y1={y(100 * ride.mean)}
                y2={y(100 * ride.mean)}
                stroke={ink}
                strokeWidth={2}
              />
              {ride.more > 0 && <path d={`M${x + 4.5},${HIGH + 5} l3.5,7 h-7 Z`} fill={pine} />}
              {ride.less > 0 && <path d={`M${x + 4.5},${HIGH + 23} l3.5,-7 h-7 Z`} fill={oxblood} />}
            </g>
          );
        })}
        {first && (
          <text x={0} y={HIGH + 37} fontSize={11} fill={inkSoft}>
            {day(first.on)}
          </text>
        )}
        {last && shown.length > 1 && (
          <text x={wide} y={HIGH + 37} fontSize={11} fill={inkSoft} textAnchor="end">
            {day(last.on)}
          </text>
        )}
      </svg>
      <Typography sx={{ color: inkSoft, fontSize: "0.95rem" }}>
        <Box component="span" sx={{ borderBottom: `4px solid ${leatherSoft}`, fontWeight: 700 }}>
          Filled
        </Box>
        : as it moved through the ride; the line is its mean.{" "}
        <Box component="span" sx={{ color: pine, fontWeight: 700 }}>
          ▲
        </Box>{" "}
        asked for more,{" "}
        <Box component="span" sx={{ color: oxblood, fontWeight: 700 }}>
          ▼
        </Box>{" "}
        asked for less.
      </Typography>
    </Box>
  );
}
