import type { Schemas } from "../../../api/client";
import { denim, denimSoft, dust, dustDark, ink, leather, paper } from "../../../theme/tokens";
import { at, type Piece } from "./piece";

/** How long a pole is drawn, metres: ten feet. */
const POLE = 3;
/** How wide mud and water are drawn, and how far apart the posts of a gap, metres: a horse and a little. */
const WET = 4;
const GAP = 3.4;

/** Poles across the path, the bridge under it, the sides of a back-through, and the gate beside it. */
export function ObstacleMarks({ ridden, y }: { ridden: Schemas["RiddenOut"]; y: (v: number) => number }) {
  return (
    <g pointerEvents="none">
      {ridden.path.map((piece, n) => {
        const word = ridden.steps[piece.step]?.word;
        const obstacle = ridden.obstacles.find((of) => of.line === piece.line);
        const kind = ridden.course.find((item) => item.line === piece.line)?.obstacle;
        if (kind === "mud" || kind === "water")
          return <Wet key={n} of={piece} water={kind === "water"} y={y} />;
        if (kind === "gap") return <Gap key={n} of={piece} y={y} />;
        if (word === "gate") return <Gate key={n} of={piece} y={y} />;
        if (!obstacle) return null;
        if (word === "poles") return <Poles key={n} of={piece} apart={obstacle.measure} y={y} />;
        return <Ground key={n} of={piece} wide={obstacle.measure} open={word === "backthrough"} y={y} />;
      })}
    </g>
  );
}

type Marked = { of: Piece; y: (v: number) => number };

function Poles({ of, apart, y }: Marked & { apart: number }) {
  const count = Math.round(of.length / apart);
  return Array.from({ length: count }, (_, n) => {
    const middle = at(of, (n + 0.5) / count);
    return (
      <path
        key={n}
        d={`M${-POLE / 2} 0H${POLE / 2}`}
        stroke={leather}
        strokeWidth={0.35}
        transform={`translate(${middle.at.x} ${y(middle.at.y)}) rotate(${middle.heading})`}
      />
    );
  });
}

/** A bridge as planks; of a back-through only its two sides. */
function Ground({ of, wide, open, y }: Marked & { wide: number; open: boolean }) {
  const middle = at(of, 0.5);
  const [w, l] = [wide, of.length];
  return (
    <g transform={`translate(${middle.at.x} ${y(middle.at.y)}) rotate(${middle.heading})`}>
      {open ? (
        <path
          d={`M${-w / 2} ${-l / 2}v${l}M${w / 2} ${-l / 2}v${l}`}
          stroke={leather}
          strokeWidth={0.35}
          fill="none"
        />
      ) : (
        <rect
          x={-w / 2}
          y={-l / 2}
          width={w}
          height={l}
          fill={leather}
          opacity={0.55}
          stroke={ink}
          strokeWidth={0.12}
        />
      )}
    </g>
  );
}

/** Mud or water under the path. */
function Wet({ of, water, y }: Marked & { water: boolean }) {
  const middle = at(of, 0.5);
  return (
    <ellipse
      rx={WET / 2}
      ry={Math.max(of.length / 2, 1)}
      fill={water ? denimSoft : dust}
      opacity={0.6}
      stroke={water ? denim : dustDark}
      strokeWidth={0.15}
      transform={`translate(${middle.at.x} ${y(middle.at.y)}) rotate(${middle.heading})`}
    />
  );
}

/** The two posts that are passed between sideways, before and behind the horse. */
function Gap({ of, y }: Marked) {
  const middle = at(of, 0.5);
  return (
    <g transform={`translate(${middle.at.x} ${y(middle.at.y)}) rotate(${middle.heading})`}>
      {[-GAP / 2, GAP / 2].map((off) => (
        <circle key={off} cy={off} r={0.35} fill={leather} stroke={ink} strokeWidth={0.15} />
      ))}
    </g>
  );
}

/** From the middle of the half circle outward: the gate swings where the horse goes round. */
function Gate({ of, y }: Marked) {
  const [from, to] = [at(of, 0).at, at(of, 1).at];
  const [x, mid] = [(from.x + to.x) / 2, (from.y + to.y) / 2];
  const out = at(of, 0.5).at;
  return (
    <g>
      <path
        d={`M${x} ${y(mid)}L${2 * x - out.x} ${y(2 * mid - out.y)}`}
        stroke={leather}
        strokeWidth={0.45}
      />
      <circle cx={x} cy={y(mid)} r={0.35} fill={paper} stroke={ink} strokeWidth={0.15} />
    </g>
  );
}
