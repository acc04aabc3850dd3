import type { Schemas } from "../../api/client";
import { ink, leather, rule } from "../../theme/tokens";
import { INCH } from "../../parts/inches";

/** How much of the wall is seen: all pieces are drawn to one scale. */
const [WIDE, HIGH] = [12 * INCH, 12 * INCH];

/** A piece drawn from its measures, to the same scale as all others. */
export function PieceDrawing({ measures }: { measures: Schemas["Measures"] }) {
  return (
    <svg
      viewBox={`${-WIDE / 2} ${-HIGH / 2} ${WIDE} ${HIGH}`}
      width="100%"
      height="100%"
      role="img"
      aria-label={`${measures.kind}, drawn to scale`}
      fill="none"
      stroke={ink}
      strokeWidth={0.0045}
      strokeLinecap="round"
      strokeLinejoin="round"
    >
      {measures.kind === "leverage" && <Shanks m={measures} />}
      {measures.kind === "snaffle" && <Rings m={measures} />}
      {measures.kind === "bosal" && <Noseband m={measures} />}
    </svg>
  );
}

/** A bit with shanks from the side: the cheekpiece up, the shank down, the strap's ring and the rein's. */
function Shanks({ m }: { m: Schemas["LeverageMeasures"] }) {
  const down = { x: m.shank * Math.sin(m.sweep), y: m.shank * Math.cos(m.sweep) };
  const middle = (m.shank - m.purchase) / 2;
  return (
    <g transform={`translate(${-down.x / 2} ${-middle})`}>
      <path
        d={`M0,${-m.purchase} L0,0 Q${down.x * 0.1},${down.y * 0.5} ${down.x},${down.y}`}
        strokeWidth={0.0075}
      />
      <circle cx={0} cy={-m.purchase - 0.008} r={0.008} />
      <circle cx={down.x} cy={down.y + 0.009} r={0.009} />
      <circle cx={0} cy={0} r={0.009} fill={ink} />
      <path
        d={`M0,${-m.purchase - 0.008} q${m.chin_behind * 0.5},0.03 ${m.chin_behind},0.036`}
        stroke={leather}
      />
    </g>
  );
}

/** A snaffle from the front: the mouthpiece in two halves between its rings. */
function Rings({ m }: { m: Schemas["SnaffleMeasures"] }) {
  const [half, r] = [m.width / 2, m.ring / 2];
  const out = half + r * 0.94;
  return (
    <>
      <circle cx={-out} cy={0} r={r} />
      <circle cx={out} cy={0} r={r} />
      <path
        d={`M${-half},0 Q${-half / 2},-0.012 -0.006,0 M${half},0 Q${half / 2},-0.012 0.006,0`}
        strokeWidth={0.011}
      />
      <circle cx={0} cy={0} r={0.0065} fill={rule} />
    </>
  );
}

/** A bosal from the front: nose button, cheeks, heel knot. */
function Noseband({ m }: { m: Schemas["BosalMeasures"] }) {
  const [wide, half] = [m.length * 0.26, m.length / 2];
  return (
    <>
      <path
        d={`M0,${-half} C${wide},${-half} ${wide * 1.15},${half * 0.5} 0,${half} C${-wide * 1.15},${half * 0.5} ${-wide},${-half} 0,${-half} Z`}
        stroke={leather}
        strokeWidth={m.thick}
      />
      <path
        d={`M${-wide * 0.45},${-half + 0.004} Q0,${-half - 0.012} ${wide * 0.45},${-half + 0.004}`}
        strokeWidth={m.thick * 0.9}
      />
      <circle cx={0} cy={half} r={m.thick * 0.9} fill={ink} />
    </>
  );
}
