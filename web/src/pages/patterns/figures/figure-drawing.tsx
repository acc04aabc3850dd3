import { useRef, type PointerEvent } from "react";
import type { Schemas } from "../../../api/client";
import { FOOT } from "../../../parts/lengths";
import {
  denim,
  ink,
  inkSoft,
  leather,
  marigold,
  oxblood,
  paper,
  pine,
  rust,
  sage,
} from "../../../theme/tokens";
import { cornersOf, Fences, North } from "../fences";
import { ObstacleMarks } from "./obstacle-marks";
import { at, points, type Piece } from "./piece";

type Point = Schemas["Point"];

/** What can be put somewhere else: its line in the text, and where it is. */
export type Placeable = { name: string; line: number; at: Point };

const inkOf = (piece: Piece) =>
  piece.lead === "left"
    ? denim
    : piece.lead === "right"
      ? rust
      : piece.gait === "walk"
        ? sage
        : piece.gait === "jog"
          ? ink
          : leather;
const dashOf = (piece: Piece) =>
  piece.gait === "walk" ? "0.5 0.9" : piece.gait === "back" || piece.gait === "side" ? "0.3 0.7" : undefined;
const SNAP = FOOT / 2;
/** How far beside an obstacle its number stands, metres. */
const ASIDE = 3.6;

/** The pen with the path in it, coloured by gait and lead, and marks that can be dragged. */
export function FigureDrawing(props: {
  pen: Schemas["Pen"];
  ridden: Schemas["RiddenOut"];
  places: Placeable[];
  /** Whether its obstacles are numbered, as on a course. */
  numbered: boolean;
  now: { piece: Piece; at: Point; heading: number } | null;
  /** To a place, feet. */
  onPlace: (line: number, x: number, y: number) => void;
  /** By so many feet. */
  onNudge: (line: number, dx: number, dy: number) => void;
}) {
  const { pen, ridden, now } = props;
  const svg = useRef<SVGSVGElement>(null);
  const dragged = useRef<number | null>(null);
  const fences = cornersOf(pen.outline);
  const all = [...fences, ...ridden.path.flatMap(points)];
  const xs = all.map((p) => p.x);
  const ys = all.map((p) => p.y);
  const edge = 3.6;
  const [left, right] = [Math.min(...xs) - edge, Math.max(...xs) + edge];
  const [bottom, top] = [Math.min(...ys) - edge, Math.max(...ys) + edge];
  const y = (v: number) => top + bottom - v;
  const way = (piece: Piece) =>
    points(piece)
      .map((p) => `${p.x.toFixed(2)},${y(p.y).toFixed(2)}`)
      .join(" ");
  const under = (event: PointerEvent): Point | null => {
    const matrix = svg.current?.getScreenCTM();
    if (!matrix) return null;
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    return { x: p.x, y: y(p.y) };
  };
  const wrong = ridden.near.filter((near) => !near.fits);
  return (
    <svg
      ref={svg}
      viewBox={`${left} ${bottom} ${right - left} ${top - bottom}`}
      width="100%"
      height="100%"
      role="group"
      aria-label="The figure in the pen"
      style={{ display: "block", touchAction: "none" }}
      onPointerMove={(event) => {
        const line = dragged.current;
        const p = line === null ? null : under(event);
        if (line !== null && p)
          props.onPlace(line, (Math.round(p.x / SNAP) * SNAP) / FOOT, (Math.round(p.y / SNAP) * SNAP) / FOOT);
      }}
      onPointerUp={() => (dragged.current = null)}
    >
      <Fences pen={pen} fences={fences} y={y} />
      <North degrees={pen.north ?? 0} at={{ x: right - 2.2, y: bottom + 4.2 }} />
      {ridden.path.map((piece, n) => (
        <polyline
          key={n}
          points={way(piece)}
          fill="none"
          stroke={inkOf(piece)}
          strokeWidth={piece.gait === "run" ? 0.7 : 0.45}
          strokeDasharray={dashOf(piece)}
          strokeLinejoin="round"
        />
      ))}
      <ObstacleMarks ridden={ridden} y={y} />
      {ridden.path
        .filter((piece) => piece.length > 5)
        .map((piece, n) => (
          <Arrow key={n} of={piece} y={y} />
        ))}
      {ridden.changes.map((change, n) => (
        <g key={n}>
          <circle
            cx={change.at.x}
            cy={y(change.at.y)}
            r={0.9}
            fill={paper}
            stroke={oxblood}
            strokeWidth={0.35}
          />
          <text x={change.at.x + 1.4} y={y(change.at.y) + 0.6} fontSize={1.7} fill={oxblood} fontWeight={700}>
            change to the {change.to}
          </text>
        </g>
      ))}
      {wrong.map((near, n) => (
        <circle
          key={n}
          cx={near.at.x}
          cy={y(near.at.y)}
          r={1.3}
          fill="none"
          stroke={oxblood}
          strokeWidth={0.4}
        />
      ))}
      {props.numbered && <Numbers ridden={ridden} y={y} />}
      {props.places.map((place) => (
        <g
          key={place.line}
          role="button"
          tabIndex={0}
          aria-label={`${place.name}: drag it, or move it by the arrow keys`}
          style={{ cursor: "grab" }}
          onPointerDown={(event) => {
            dragged.current = place.line;
            event.currentTarget.setPointerCapture(event.pointerId);
          }}
          onKeyDown={(event) => {
            const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
              event.key
            ];
            if (!by) return;
            event.preventDefault();
            props.onNudge(place.line, by[0] ?? 0, by[1] ?? 0);
          }}
        >
          <circle cx={place.at.x} cy={y(place.at.y)} r={2.2} fill="transparent" />
          <path
            d={`M${place.at.x} ${y(place.at.y) - 1.1}l1 1.9h-2z`}
            fill={marigold}
            stroke={ink}
            strokeWidth={0.2}
          />
          <text x={place.at.x + 1.5} y={y(place.at.y) + 0.7} fontSize={1.8} fill={ink} fontWeight={650}>
            {place.name}
          </text>
        </g>
      ))}
      {now && (
        <g transform={`translate(${now.at.x} ${y(now.at.y)}) rotate(${now.heading})`} pointerEvents="none">
          <ellipse rx={0.7} ry={1.5} fill={pine} stroke={paper} strokeWidth={0.25} />
          <circle cy={-1.5} r={0.5} fill={pine} />
        </g>
      )}
    </svg>
  );
}

/** The obstacles of a course by number, to the left of where each begins. */
function Numbers({ ridden, y }: { ridden: Schemas["RiddenOut"]; y: (v: number) => number }) {
  return ridden.course.map((item, n) => {
    const heading = ridden.path.find((piece) => piece.line === item.line)?.heading ?? 0;
    const turn = (heading * Math.PI) / 180;
    const [cx, cy] = [item.at.x - ASIDE * Math.cos(turn), y(item.at.y + ASIDE * Math.sin(turn))];
    return (
      <g key={n} pointerEvents="none">
        <circle cx={cx} cy={cy} r={1.5} fill={ink} />
        <text x={cx} y={cy + 0.65} fontSize={1.9} fontWeight={700} textAnchor="middle" fill={paper}>
          {n + 1}
        </text>
      </g>
    );
  });
}

/** Which way it goes, half way along a piece. */
function Arrow({ of, y }: { of: Piece; y: (v: number) => number }) {
  const middle = at(of, 0.5);
  const turn = of.gait === "back" ? 180 : 0;
  if (of.gait === "side") return null;
  return (
    <path
      d="M0 -0.9L0.7 0.7H-0.7Z"
      fill={inkOf(of)}
      stroke={paper}
      strokeWidth={0.15}
      transform={`translate(${middle.at.x} ${y(middle.at.y)}) rotate(${middle.heading + turn})`}
    />
  );
}

/** What the colours of the path mean. */
export function PathLegend() {
  const rows: [string, string, string?][] = [
    ["Walk", sage, "3 4"],
    ["Jog", ink],
    ["Left lead", denim],
    ["Right lead", rust],
    ["Back, sideways", leather, "2 3"],
  ];
  return (
    <span style={{ display: "inline-flex", gap: 14, flexWrap: "wrap", color: inkSoft, fontSize: "0.9rem" }}>
      {rows.map(([name, colour, dash]) => (
        <span key={name}>
          <svg width={24} height={8} aria-hidden="true">
            <path d="M1 4h22" stroke={colour} strokeWidth={3} strokeDasharray={dash} />
          </svg>{" "}
          {name}
        </span>
      ))}
    </span>
  );
}
