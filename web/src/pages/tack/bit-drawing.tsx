import Box from "@mui/material/Box";
import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import type { Schemas } from "../../api/client";
import {
  denim,
  ink,
  inkSoft,
  leather,
  marigold,
  oxblood,
  paper,
  rule,
  rust,
  sageDark,
} from "../../theme/tokens";
import { degrees, newtons, radians } from "./tack-words";

type Held = Schemas["HeldOut"];
type At = { x: number; y: number };

/** What is seen, metres about the mouthpiece. */
const VIEW = { left: -0.2, top: -0.25, wide: 0.52, high: 0.43 };
/** Where the hand is drawn: nearer for a feather, further for a tug. */
const REACH = { near: 0.1, far: 0.24 };
const onScreen = (x: number, up: number): At => ({ x, y: -up });
const plus = (a: At, b: At, by = 1): At => ({ x: a.x + b.x * by, y: a.y + b.y * by });
/** An arrow's length, metres: its square root, so that a lemon is seen beside a tug. */
const arrow = (force: number) => Math.min(0.16, 0.0078 * Math.sqrt(Math.max(0, force)));

/** A leverage bit from the side in the horse's mouth. The hand is dragged: the shank turns, the strap takes hold. */
export function BitDrawing(props: {
  measures: Schemas["LeverageMeasures"];
  hung: Schemas["HungOut"];
  held: Held;
  /** Where the held weight stands among all, 0 to 1. */
  share: number;
  rise: number;
  noseOut: number;
  name: string;
  onShare: (share: number) => void;
}) {
  const { measures: m, hung, held, rise } = props;
  const svg = useRef<SVGSVGElement>(null);
  const tilt = degrees(props.noseOut);
  const turn = held.turn;
  const ring = onScreen(-m.purchase * Math.sin(turn), m.purchase * Math.cos(turn));
  const reinRing = onScreen(m.shank * Math.sin(m.sweep + turn), -m.shank * Math.cos(m.sweep + turn));
  const chin = onScreen(hung.chin_behind, -hung.chin_below);
  const pull = rise + props.noseOut;
  const along = onScreen(Math.cos(pull), Math.sin(pull));
  const hand = plus(reinRing, along, REACH.near + (REACH.far - REACH.near) * props.share);
  const drag = (event: PointerEvent<SVGElement>) => {
    if (event.buttons === 0) return;
    const matrix = svg.current?.getScreenCTM();
    if (!matrix) return;
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    // The head is tilted on the page: back into its own axes.
    const back = radians(-tilt);
    const x = at.x * Math.cos(back) - at.y * Math.sin(back);
    const y = at.x * Math.sin(back) + at.y * Math.cos(back);
    const out = (x - reinRing.x) * along.x + (y - reinRing.y) * along.y;
    props.onShare(Math.min(1, Math.max(0, (out - REACH.near) / (REACH.far - REACH.near))));
  };
  const step = (event: KeyboardEvent) => {
    const by = { ArrowRight: 0.02, ArrowUp: 0.02, ArrowLeft: -0.02, ArrowDown: -0.02 }[event.key];
    if (!by) return;
    event.preventDefault();
    props.onShare(Math.min(1, Math.max(0, props.share + by)));
  };
  return (
    <Box
      component="svg"
      ref={svg}
      viewBox={`${VIEW.left} ${VIEW.top} ${VIEW.wide} ${VIEW.high}`}
      role="group"
      aria-label={`${props.name} from the side`}
      sx={{
        width: "100%",
        display: "block",
        background: paper,
        border: `1px solid ${rule}`,
        touchAction: "pan-y",
      }}
    >
      <g transform={`rotate(${tilt})`} fill="none" strokeLinecap="round" strokeLinejoin="round">
        <Head chin={chin} />
        <path d={`M${ring.x},${ring.y} L0,-0.42`} stroke={leather} strokeWidth={0.007} />
        <Strap from={ring} to={chin} tight={held.tight} />
        <g stroke={ink}>
          <path d={`M${ring.x},${ring.y} L0,0 L${reinRing.x},${reinRing.y}`} strokeWidth={0.0085} />
          <circle cx={ring.x} cy={ring.y} r={0.008} fill={paper} strokeWidth={0.004} />
          <circle cx={reinRing.x} cy={reinRing.y} r={0.008} fill={paper} strokeWidth={0.004} />
          <circle cx={0} cy={0} r={0.01} fill={ink} strokeWidth={0.004} />
        </g>
        <path d={`M${reinRing.x},${reinRing.y} L${hand.x},${hand.y}`} stroke={inkSoft} strokeWidth={0.005} />
        <Arrow
          from={{ x: 0, y: 0 }}
          to={onScreen(held.back, held.up)}
          force={Math.hypot(held.back, held.up)}
          colour={oxblood}
          name="mouth"
          tilt={tilt}
        />
        <Arrow
          from={chin}
          to={{ x: ring.x - chin.x, y: ring.y - chin.y }}
          force={held.curb}
          colour={denim}
          name="chin"
          named="tail"
          tilt={tilt}
        />
        <Arrow
          from={{ x: 0, y: -0.19 }}
          to={{ x: 0, y: 1 }}
          force={held.poll}
          colour={sageDark}
          name="poll"
          tilt={tilt}
        />
        <g
          role="slider"
          tabIndex={0}
          aria-label="Weight on each rein"
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(props.share * 100)}
          aria-valuetext={`${held.word}, ${newtons(held.weight)}`}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            drag(event);
          }}
          onPointerMove={drag}
          onKeyDown={step}
          style={{ cursor: "grab", touchAction: "none" }}
        >
          <circle cx={hand.x} cy={hand.y} r={0.034} fill="transparent" />
          <circle cx={hand.x} cy={hand.y} r={0.017} fill={marigold} stroke={ink} strokeWidth={0.004} />
        </g>
      </g>
    </Box>
  );
}

/** The muzzle and jaw, drawn round the mouthpiece and the chin groove. */
function Head({ chin }: { chin: At }) {
  const c = `${chin.x},${chin.y}`;
  return (
    <g stroke={inkSoft} strokeWidth={0.0035}>
      <path
        d={`M-0.07,-0.42 C-0.1,-0.2 -0.125,-0.06 -0.112,0.012 C-0.106,0.062 -0.07,0.078 -0.036,0.062
            C-0.03,0.092 0.012,0.096 0.024,0.07 C0.03,0.052 ${chin.x - 0.012},${chin.y + 0.016} ${c}
            C${chin.x + 0.03},${chin.y - 0.022} 0.15,-0.1 0.22,-0.42 Z`}
        fill={rule}
        fillOpacity={0.35}
      />
      <path d="M-0.088,0.04 C-0.05,0.036 -0.03,0.022 0,0" />
      <path d="M-0.094,-0.022 c0.012,-0.016 0.03,-0.014 0.034,0.004" />
    </g>
  );
}

/** The curb strap: hanging while it is slack, a straight line once it is tight. */
function Strap({ from, to, tight }: { from: At; to: At; tight: boolean }) {
  const sag = tight ? 0 : 0.022;
  const middle = { x: (from.x + to.x) / 2 + sag * 0.5, y: (from.y + to.y) / 2 + sag };
  return (
    <path
      d={`M${from.x},${from.y} Q${middle.x},${middle.y} ${to.x},${to.y}`}
      stroke={tight ? rust : leather}
      strokeWidth={tight ? 0.009 : 0.0075}
    />
  );
}

/** A force from where it acts, as long as its square root. */
function Arrow(props: {
  from: At;
  to: At;
  force: number;
  colour: string;
  name: string;
  tilt: number;
  /** Where it is named: at its end, or where it begins. */
  named?: "tip" | "tail";
}) {
  const { from, to, force, colour } = props;
  const size = Math.hypot(to.x, to.y);
  const length = arrow(force);
  if (size === 0 || length < 0.012) return null;
  const unit = { x: to.x / size, y: to.y / size };
  const tip = plus(from, unit, length);
  const [half, head] = [0.009, 0.018];
  const base = plus(from, unit, length - head);
  const tail = props.named === "tail";
  const label = tail ? plus(from, unit, -0.02) : plus(tip, unit, 0.014);
  const side = tail ? -unit.x : unit.x;
  return (
    <g pointerEvents="none">
      <path d={`M${from.x},${from.y} L${base.x},${base.y}`} stroke={colour} strokeWidth={0.0065} />
      <path
        d={`M${tip.x},${tip.y} L${base.x - unit.y * half},${base.y + unit.x * half} L${base.x + unit.y * half},${base.y - unit.x * half} Z`}
        fill={colour}
      />
      <text
        x={label.x}
        y={label.y}
        fontSize={0.0165}
        fontWeight={700}
        fill={colour}
        stroke={paper}
        strokeWidth={0.004}
        paintOrder="stroke"
        textAnchor={side < -0.3 ? "end" : side > 0.3 ? "start" : "middle"}
        // Read level, however the head is tilted.
        transform={`rotate(${-props.tilt} ${label.x} ${label.y})`}
      >
        {props.name} {newtons(force)}
      </text>
    </g>
  );
}
