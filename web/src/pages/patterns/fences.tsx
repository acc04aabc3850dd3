import type { Schemas } from "../../api/client";
import { bone, denimSoft, dust, dustDark, ink, inkSoft, marigold, oxblood, paper } from "../../theme/tokens";

type Point = Schemas["Point"];

/** The corners of an outline; an oval has many. */
export function cornersOf(outline: Schemas["Outline"]): Point[] {
  if (outline.kind === "corners") return outline.corners;
  const { width, length } = outline;
  if (outline.kind === "rectangle")
    return [
      { x: 0, y: 0 },
      { x: width, y: 0 },
      { x: width, y: length },
      { x: 0, y: length },
    ];
  return Array.from({ length: 48 }, (_, n) => {
    const turn = (2 * Math.PI * n) / 48;
    return { x: ((Math.cos(turn) + 1) * width) / 2, y: ((Math.sin(turn) + 1) * length) / 2 };
  });
}

const ways = (points: Point[], y: (v: number) => number) => points.map((p) => `${p.x},${y(p.y)}`).join(" ");
const badColour = { rutted: dust, wet: denimSoft, hard: dustDark, taken: oxblood } as const;

/** Fences with their posts and the gate, and bad ground hatched. */
export function Fences({
  pen,
  fences,
  y,
}: {
  pen: Schemas["Pen"];
  fences: Point[];
  y: (v: number) => number;
}) {
  const corners = pen.outline.kind === "oval" ? [] : fences;
  return (
    <g pointerEvents="none">
      <defs>
        <pattern
          id="bad-ground"
          width="1.1"
          height="1.1"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(38)"
        >
          <line x1="0" y1="0" x2="0" y2="1.1" stroke={ink} strokeWidth="0.22" />
        </pattern>
      </defs>
      <polygon points={ways(fences, y)} fill={paper} stroke={ink} strokeWidth={0.5} />
      <polygon points={ways(fences, y)} fill="none" stroke={bone} strokeWidth={0.16} />
      {pen.areas?.map((area, n) => (
        <g key={n} opacity={0.35 + 0.2 * area.bad}>
          <polygon points={ways(area.corners, y)} fill={badColour[area.underfoot]} opacity={0.45} />
          <polygon points={ways(area.corners, y)} fill="url(#bad-ground)" stroke={ink} strokeWidth={0.12} />
        </g>
      ))}
      {[...corners, ...(pen.posts ?? [])].map((p, n) => (
        <rect key={n} x={p.x - 0.4} y={y(p.y) - 0.4} width={0.8} height={0.8} fill={ink} />
      ))}
      {pen.gate && (
        <g>
          <circle cx={pen.gate.x} cy={y(pen.gate.y)} r={1.1} fill={marigold} stroke={ink} strokeWidth={0.2} />
          <text x={pen.gate.x} y={y(pen.gate.y) + 2.6} fontSize={1.9} textAnchor="middle" fill={inkSoft}>
            gate
          </text>
        </g>
      )}
    </g>
  );
}

/** An arrow to the north. */
export function North({ degrees, at }: { degrees: number; at: Point }) {
  return (
    <g transform={`translate(${at.x} ${at.y}) rotate(${degrees})`} pointerEvents="none" aria-hidden="true">
      <path d="M0,-1.7 L0.7,1 L0,0.45 L-0.7,1 Z" fill={ink} />
      <text y={-2.1} fontSize={1.8} textAnchor="middle" fontWeight={700} fill={ink}>
        N
      </text>
    </g>
  );
}
