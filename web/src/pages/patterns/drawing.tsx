import Box from "@mui/material/Box";
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Schemas } from "../../api/client";
import { FOOT, onTape, speedIn } from "../../parts/lengths";
import {
  denim,
  ink,
  inkSoft,
  marigold,
  paper,
  rule,
  rust,
  softness,
  trackInks,
  white,
} from "../../theme/tokens";
import { handleName, placeOf, type Handle, type SetUp } from "./draft";
import { Fences, North } from "./fences";
import { reached, strideMarks } from "./use-playback";

type Point = Schemas["Point"];
/** Dragged things go from half foot to half foot. */
const SNAP = FOOT / 2;
const snapped = (v: number) => Math.round(v / SNAP) * SNAP;

/** The pen from above, to scale: fences, bad ground, barrels with their spots, and the path coloured by speed. */
export function Drawing(props: {
  pen: Schemas["Pen"];
  fences: Point[];
  setUp: SetUp;
  run: Schemas["RunOut"] | undefined;
  units: Schemas["Units"];
  picked: Handle | null;
  t: number | null;
  /** Metres a stride. */
  stride: number;
  measuring: boolean;
  tracks: number[][][];
  /** The posts that tapes are held at. */
  posts: [string, Point][];
  onPick: (what: Handle) => void;
  onMove: (what: Handle, to: Point, first: boolean) => void;
}) {
  const { fences, setUp, run, units, picked } = props;
  const svg = useRef<SVGSVGElement>(null);
  const dragged = useRef<{ what: Handle; first: boolean } | null>(null);
  const [tape, setTape] = useState<[Point, Point] | null>(null);
  const xs = fences.map((p) => p.x);
  const ys = fences.map((p) => p.y);
  const [left, right, bottom, top] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const edge = 3.2;
  const y = (v: number) => top + bottom - v;

  const under = (event: PointerEvent): Point | null => {
    const matrix = svg.current?.getScreenCTM();
    if (!matrix) return null;
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    return { x: p.x, y: y(p.y) };
  };
  const take = (what: Handle) => (event: PointerEvent) => {
    if (props.measuring) return;
    event.stopPropagation();
    props.onPick(what);
    dragged.current = { what, first: true };
    svg.current?.setPointerCapture(event.pointerId);
  };
  const move = (event: PointerEvent) => {
    const at = under(event);
    if (!at) return;
    if (props.measuring && event.buttons > 0 && tape) setTape([tape[0], at]);
    const drag = dragged.current;
    if (!drag) return;
    const to = { x: snapped(at.x), y: snapped(at.y) };
    const was = placeOf(setUp, drag.what);
    if (was && was.x === to.x && was.y === to.y) return;
    props.onMove(drag.what, to, drag.first);
    drag.first = false;
  };
  const nudge = (what: Handle) => (event: KeyboardEvent) => {
    const step = event.shiftKey ? FOOT / 12 : FOOT;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[
      event.key
    ];
    const at = placeOf(setUp, what);
    if (!by || !at) return;
    event.preventDefault();
    props.onMove(what, { x: at.x + (by[0] ?? 0), y: at.y + (by[1] ?? 0) }, true);
  };
  const handle = (what: Handle) => ({
    role: "button",
    tabIndex: 0,
    "aria-pressed": picked === what,
    onPointerDown: take(what),
    onKeyDown: nudge(what),
    onFocus: () => props.onPick(what),
    style: { cursor: "grab", touchAction: "none", outlineOffset: 2 },
  });
  return (
    <Box
      component="svg"
      ref={svg}
      viewBox={`${left - edge} ${bottom - edge} ${right - left + 2 * edge} ${top - bottom + 2 * edge}`}
      role="group"
      aria-label="The pen from above"
      onPointerMove={move}
      onPointerDown={(event) => {
        const at = under(event);
        if (props.measuring && at) {
          event.currentTarget.setPointerCapture(event.pointerId);
          setTape([at, at]);
        }
      }}
      onPointerUp={() => (dragged.current = null)}
      sx={{
        width: "100%",
        height: "100%",
        display: "block",
        cursor: props.measuring ? "crosshair" : "default",
        touchAction: props.measuring ? "none" : "pan-y",
      }}
    >
      <Fences pen={props.pen} fences={fences} y={y} />
      <North degrees={props.pen.north ?? 0} at={{ x: right - 2.2, y: bottom + 3.2 }} />
      {run && <PathOf points={run.points} y={y} />}
      {props.tracks.map((track, n) => (
        <polyline
          key={n}
          points={track.map((p) => `${p[0]},${y(p[1] ?? 0)}`).join(" ")}
          fill="none"
          stroke={trackInks[n]}
          strokeWidth={0.28}
          strokeDasharray={n === 0 ? "0.9 0.6" : "0.3 0.5"}
        />
      ))}
      {run?.turns.map((turn, n) => (
        <g key={n} pointerEvents="none">
          <circle
            cx={turn.rate_at.x}
            cy={y(turn.rate_at.y)}
            r={0.42}
            fill={paper}
            stroke={ink}
            strokeWidth={0.2}
          />
          {turn.spots.map((spot, k) => (
            <circle
              key={k}
              cx={spot.x}
              cy={y(spot.y)}
              r={0.34}
              fill={white}
              stroke={ink}
              strokeWidth={0.14}
            />
          ))}
        </g>
      ))}
      {run?.lead_changes.map((lead) => (
        <path
          key={lead.after}
          d="M0,-0.8 L0.8,0 L0,0.8 L-0.8,0 Z"
          transform={`translate(${lead.at.x} ${y(lead.at.y)})`}
          fill={marigold}
          stroke={ink}
          strokeWidth={0.15}
        />
      ))}
      <g {...handle("line")} aria-label={`Line, ${where(setUp.start, units)}`}>
        <circle cx={setUp.start.x} cy={y(setUp.start.y)} r={1.7} fill="transparent" />
        <path
          d={`M${setUp.start.x - 1.1},${y(setUp.start.y)} h2.2`}
          stroke={picked === "line" ? marigold : ink}
          strokeWidth={0.5}
        />
        <text x={setUp.start.x + 1.5} y={y(setUp.start.y) + 0.5} fontSize={1.9} fill={ink} fontWeight={600}>
          line
        </text>
      </g>
      {setUp.barrels.map((barrel, n) => (
        <g
          key={n}
          {...handle(n)}
          aria-label={`${handleName(n)}, ${barrel.turn} turn, ${where(barrel.at, units)}`}
        >
          <circle cx={barrel.at.x} cy={y(barrel.at.y)} r={2} fill="transparent" />
          <circle
            cx={barrel.at.x}
            cy={y(barrel.at.y)}
            r={1.25}
            fill={barrel.turn === "left" ? denim : rust}
            stroke={picked === n ? marigold : ink}
            strokeWidth={picked === n ? 0.4 : 0.15}
          />
          <text
            x={barrel.at.x}
            y={y(barrel.at.y) + 0.62}
            fontSize={1.75}
            fontWeight={700}
            textAnchor="middle"
            fill={white}
          >
            {n + 1}
          </text>
        </g>
      ))}
      {props.posts.map(([name, p]) => (
        <g key={name} pointerEvents="none">
          <circle cx={p.x} cy={y(p.y)} r={1.5} fill={marigold} stroke={ink} strokeWidth={0.2} />
          <text x={p.x} y={y(p.y) + 0.75} fontSize={2} fontWeight={700} textAnchor="middle" fill={ink}>
            {name}
          </text>
        </g>
      ))}
      {run && <Speeds run={run} setUp={setUp} y={y} units={units} />}
      {run && props.t !== null && <Horse points={run.points} t={props.t} stride={props.stride} y={y} />}
      {tape && props.measuring && <Tape ends={tape} y={y} units={units} />}
    </Box>
  );
}

const where = (p: Point, units: Schemas["Units"]) => `${onTape(units, p.x)} right, ${onTape(units, p.y)} up`;

/** The path in short stretches, brick where it is slow and teal where it is fast. */
function PathOf({ points, y }: { points: number[][]; y: (v: number) => number }) {
  const speeds = points.map((p) => p[3] ?? 0);
  const [slow, fast] = [Math.min(...speeds), Math.max(...speeds)];
  const share = (v: number) => (fast > slow ? (v - slow) / (fast - slow) : 1);
  const step = Math.max(1, Math.floor(points.length / 160));
  const stretches: number[][][] = [];
  for (let n = 0; n < points.length - 1; n += step) stretches.push(points.slice(n, n + step + 1));
  return (
    <g fill="none" strokeWidth={0.6} pointerEvents="none">
      {stretches.map((part, n) => (
        <polyline
          key={n}
          points={part.map((p) => `${p[0]},${y(p[1] ?? 0)}`).join(" ")}
          stroke={softness(share(part[0]?.[3] ?? 0))}
        />
      ))}
    </g>
  );
}

/** The slowest of each turn, beside its barrel on the far side from the path. */
function Speeds(props: {
  run: Schemas["RunOut"];
  setUp: SetUp;
  y: (v: number) => number;
  units: Schemas["Units"];
}) {
  return props.run.turns.map((turn, n) => {
    const at = props.setUp.barrels[n]?.at;
    const back = turn.spots[1];
    if (!at || !back) return null;
    const far = Math.hypot(back.x - at.x, back.y - at.y) || 1;
    const x = at.x + ((back.x - at.x) / far) * (far + 3);
    const up = at.y + ((back.y - at.y) / far) * (far + 3);
    return (
      <text
        key={n}
        x={x}
        y={props.y(up) + 0.5}
        fontSize={2.1}
        fontWeight={700}
        fill={ink}
        textAnchor="middle"
        stroke={paper}
        strokeWidth={0.5}
        paintOrder="stroke"
        pointerEvents="none"
      >
        {speedIn(props.units, turn.slowest)}
      </text>
    );
  });
}

/** The horse at a moment of the run, with a tick for each stride behind it. */
function Horse(props: { points: number[][]; t: number; stride: number; y: (v: number) => number }) {
  const { points, y } = props;
  const at = points[reached(points, props.t)];
  if (!at) return null;
  return (
    <g pointerEvents="none">
      {strideMarks(points, props.stride)
        .filter((mark) => (mark[2] ?? 0) <= (at[2] ?? 0))
        .map((mark) => (
          <circle key={mark[2]} cx={mark[0]} cy={y(mark[1] ?? 0)} r={0.26} fill={ink} />
        ))}
      <circle cx={at[0]} cy={y(at[1] ?? 0)} r={1.1} fill={marigold} stroke={ink} strokeWidth={0.25} />
    </g>
  );
}

function Tape({
  ends,
  y,
  units,
}: {
  ends: [Point, Point];
  y: (v: number) => number;
  units: Schemas["Units"];
}) {
  const [a, b] = ends;
  return (
    <g pointerEvents="none">
      <line
        x1={a.x}
        y1={y(a.y)}
        x2={b.x}
        y2={y(b.y)}
        stroke={ink}
        strokeWidth={0.22}
        strokeDasharray="0.6 0.4"
      />
      <rect
        x={(a.x + b.x) / 2 - 4}
        y={y((a.y + b.y) / 2) - 1.4}
        width={8}
        height={2.2}
        fill={paper}
        stroke={rule}
        strokeWidth={0.1}
      />
      <text
        x={(a.x + b.x) / 2}
        y={y((a.y + b.y) / 2) + 0.3}
        fontSize={1.5}
        textAnchor="middle"
        fill={ink}
        fontWeight={700}
      >
        {onTape(units, Math.hypot(b.x - a.x, b.y - a.y))}
      </text>
      <circle cx={a.x} cy={y(a.y)} r={0.3} fill={inkSoft} />
      <circle cx={b.x} cy={y(b.y)} r={0.3} fill={inkSoft} />
    </g>
  );
}
