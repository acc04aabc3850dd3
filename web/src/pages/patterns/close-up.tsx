import Box from "@mui/material/Box";
import type { Schemas } from "../../api/client";
import { onTape } from "../../parts/lengths";
import { denim, ink, marigold, paper, rule, rust, softness, white } from "../../theme/tokens";
import { spots, type SetUp } from "./draft";

/** Half of what a close-up shows, metres. */
const REACH = 6;

/** One barrel up close: the path round it, its three spots, and the pocket at each. */
export function CloseUp(props: {
  setUp: SetUp;
  run: Schemas["RunOut"];
  n: number;
  units: Schemas["Units"];
  picked: boolean;
  onPick: () => void;
}) {
  const barrel = props.setUp.barrels[props.n];
  const turn = props.run.turns[props.n];
  if (!barrel || !turn) return null;
  const x = (v: number) => v - barrel.at.x;
  const y = (v: number) => barrel.at.y - v;
  const near = props.run.points.filter((p) => Math.hypot(x(p[0] ?? 0), y(p[1] ?? 0)) < REACH * 1.5);
  const fast = Math.max(...props.run.points.map((p) => p[3] ?? 0));
  return (
    <Box
      component="button"
      type="button"
      aria-pressed={props.picked}
      aria-label={`Barrel ${props.n + 1} up close: ${spots.map((s) => onTape(props.units, barrel.pocket[s])).join(", ")}`}
      onClick={props.onPick}
      sx={{
        p: 0,
        font: "inherit",
        minHeight: 0,
        flex: 1,
        cursor: "pointer",
        background: paper,
        border: props.picked ? `2px solid ${ink}` : `1px solid ${rule}`,
        overflow: "hidden",
      }}
    >
      <svg
        viewBox={`${-REACH} ${-REACH} ${2 * REACH} ${2 * REACH}`}
        width="100%"
        height="100%"
        aria-hidden="true"
      >
        {near.map((p, k) => {
          const next = near[k + 1];
          // The path comes by a barrel more than once: what lies apart on it is not joined.
          if (!next || (next[2] ?? 0) - (p[2] ?? 0) > 1) return null;
          return (
            <line
              key={k}
              x1={x(p[0] ?? 0)}
              y1={y(p[1] ?? 0)}
              x2={x(next[0] ?? 0)}
              y2={y(next[1] ?? 0)}
              stroke={softness((p[3] ?? 0) / fast)}
              strokeWidth={0.32}
              strokeLinecap="round"
            />
          );
        })}
        <circle
          r={props.setUp.barrel_radius}
          fill={barrel.turn === "left" ? denim : rust}
          stroke={ink}
          strokeWidth={0.06}
        />
        {turn.spots.map((spot, k) => {
          const [sx, sy] = [x(spot.x), y(spot.y)];
          const far = Math.hypot(sx, sy) || 1;
          return (
            <g key={k}>
              <line
                x1={0}
                y1={0}
                x2={sx}
                y2={sy}
                stroke={ink}
                strokeWidth={0.07}
                strokeDasharray="0.2 0.15"
              />
              <circle cx={sx} cy={sy} r={0.5} fill={white} stroke={ink} strokeWidth={0.1} />
              <text x={sx} y={sy + 0.26} fontSize={0.75} fontWeight={700} textAnchor="middle" fill={ink}>
                {k + 1}
              </text>
              <text
                x={(sx / far) * (far + 1.9)}
                y={(sy / far) * (far + 1.5) + 0.35}
                fontSize={1.25}
                fontWeight={650}
                textAnchor="middle"
                fill={ink}
                stroke={paper}
                strokeWidth={0.35}
                paintOrder="stroke"
              >
                {onTape(props.units, barrel.pocket[spots[k] ?? "entry"])}
              </text>
            </g>
          );
        })}
        <text x={-REACH + 0.5} y={-REACH + 1.3} fontSize={1.4} fontWeight={700} fill={ink}>
          {props.n + 1}, {barrel.turn}
        </text>
        {props.picked && <rect x={-REACH} y={-REACH} width={0.3} height={2 * REACH} fill={marigold} />}
      </svg>
    </Box>
  );
}
