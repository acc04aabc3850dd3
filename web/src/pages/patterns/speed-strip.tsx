import Box from "@mui/material/Box";
import type { Schemas } from "../../api/client";
import { speedIn } from "../../parts/lengths";
import { ink, inkSoft, marigold, paper, rule, trackInks } from "../../theme/tokens";
import { reached } from "./use-playback";

const WIDE = 600;
const HIGH = 74;

/** Where each turn begins along the way, and how long it is. */
function bands(run: Schemas["RunOut"]) {
  const out: { from: number; length: number }[] = [];
  let way = 0;
  run.turns.forEach((turn, n) => {
    way += run.legs[n]?.length ?? 0;
    out.push({ from: way, length: turn.length });
    way += turn.length;
  });
  return out;
}

/** Way and speed of a recorded track, each over most of a second. */
export function speeds(track: number[][]): [number, number][] {
  const out: [number, number][] = [];
  let [way, from, began] = [0, 0, track[0]?.[2] ?? 0];
  for (let n = 1; n < track.length; n++) {
    const [x = 0, y = 0, t = 0] = track[n] ?? [];
    const [lastX = 0, lastY = 0] = track[n - 1] ?? [];
    way += Math.hypot(x - lastX, y - lastY);
    if (t - began < 0.7) continue;
    out.push([(way + from) / 2, (way - from) / (t - began)]);
    [from, began] = [way, t];
  }
  return out;
}

/** Speed over the way, with a band for each turn and a line where the horse is. */
export function SpeedStrip(props: {
  run: Schemas["RunOut"];
  units: Schemas["Units"];
  t: number | null;
  tracks: number[][][];
}) {
  const { run } = props;
  const most = Math.max(...run.points.map((p) => p[3] ?? 0));
  const x = (s: number) => (s / run.length) * WIDE;
  const y = (v: number) => HIGH - (v / (most * 1.08)) * (HIGH - 6);
  const turns = bands(run);
  const at = props.t === null ? null : run.points[reached(run.points, props.t)];
  return (
    <Box
      component="figure"
      sx={{ m: 0, background: paper, border: `1px solid ${rule}`, p: 1 }}
      aria-label={`Speed over the way: ${speedIn(props.units, most)} at most`}
    >
      <svg viewBox={`0 0 ${WIDE} ${HIGH + 16}`} width="100%" role="img" aria-hidden="true">
        {turns.map((turn, n) => (
          <g key={n}>
            <rect x={x(turn.from)} y={0} width={x(turn.length)} height={HIGH} fill={rule} opacity={0.6} />
            <text
              x={x(turn.from + turn.length / 2)}
              y={HIGH + 13}
              fontSize={12}
              textAnchor="middle"
              fill={ink}
            >
              {n + 1}
            </text>
          </g>
        ))}
        <polyline
          points={run.points.map((p) => `${x(p[2] ?? 0)},${y(p[3] ?? 0)}`).join(" ")}
          fill="none"
          stroke={ink}
          strokeWidth={1.8}
        />
        {props.tracks.map((track, n) => (
          <TrackSpeed key={n} n={n} track={track} x={x} y={y} />
        ))}
        <text x={WIDE - 2} y={HIGH - 6} fontSize={12} fill={inkSoft} textAnchor="end">
          fastest {speedIn(props.units, most)}
        </text>
        {at && (
          <line x1={x(at[2] ?? 0)} x2={x(at[2] ?? 0)} y1={0} y2={HIGH} stroke={marigold} strokeWidth={3} />
        )}
      </svg>
    </Box>
  );
}

/** Speed of a recorded track over its own way, over a second each. */
function TrackSpeed(props: {
  n: number;
  track: number[][];
  x: (s: number) => number;
  y: (v: number) => number;
}) {
  return (
    <polyline
      points={speeds(props.track)
        .map(([s, v]) => `${props.x(s)},${props.y(v)}`)
        .join(" ")}
      fill="none"
      stroke={trackInks[props.n]}
      strokeWidth={1.5}
      strokeDasharray={props.n === 0 ? "4 3" : "1.5 2.5"}
    />
  );
}
