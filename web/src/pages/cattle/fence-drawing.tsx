import type { Schemas } from "../../api/client";
import { positionName } from "../../parts/cattle-words";
import { denim, ink, inkSoft, leather, oxblood, pine } from "../../theme/tokens";

const WIDE = 640;
const HIGH = 138;
const LINE = 62;

/** The fence from above: cow and horse as they are now, where the cow's head would be met, and the ground to turn in. */
export function FenceDrawing({ asked, found }: { asked: Schemas["FenceIn"]; found: Schemas["FenceOut"] }) {
  const x = (feet: number) => 20 + (feet / asked.long) * (WIDE - 40);
  const met = found.marks.flatMap((mark) => (mark.made ? [{ mark, at: mark.made.cow }] : []));
  const [first] = met;
  const last = met.at(-1);
  const across = Math.min(46, 14 + asked.across * 0.5);
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} width="100%" role="img" aria-label={says(asked, found)}>
      <rect
        x={x(asked.long - asked.room)}
        y={LINE - 34}
        width={x(asked.long) - x(asked.long - asked.room)}
        height={80}
        fill={leather}
        opacity={0.18}
      />
      <path
        d={`M${x(0)} ${LINE - 34}H${x(asked.long)}V${LINE + 52}`}
        fill="none"
        stroke={ink}
        strokeWidth={4}
      />
      <path
        d={`M${x(asked.cow_at)} ${LINE - 14}H${x(first?.at ?? asked.long - asked.room)}`}
        stroke={leather}
        strokeWidth={2}
        strokeDasharray="6 5"
      />
      {met.map(({ mark, at }) => (
        <path key={mark.position} d={`M${x(at)} ${LINE - 26}v46`} stroke={pine} strokeWidth={2} />
      ))}
      {first && <Label x={x(first.at) - 5} y={LINE + 18} end of={first.mark} />}
      {last && last !== first && <Label x={x(last.at) + 5} y={LINE + 18} of={last.mark} />}
      <ellipse cx={x(asked.cow_at) - 9} cy={LINE - 14} rx={10} ry={6} fill={leather} />
      <ellipse
        cx={x(asked.nose) - 12}
        cy={LINE - 14 + across}
        rx={14}
        ry={6}
        fill={met.length > 0 ? denim : oxblood}
      />
      <text x={x(asked.cow_at) - 24} y={LINE - 10} fontSize={12} fill={ink} textAnchor="end">
        Cow
      </text>
      <text x={x(asked.nose) - 32} y={LINE - 10 + across} fontSize={12} fill={ink} textAnchor="end">
        Horse
      </text>
      <text x={x(0)} y={HIGH - 6} fontSize={12} fill={inkSoft}>
        0 ft
      </text>
      <text x={x(asked.long)} y={HIGH - 6} fontSize={12} fill={inkSoft} textAnchor="end">
        {asked.long} ft
      </text>
    </svg>
  );
}

function Label(props: { x: number; y: number; end?: boolean; of: Schemas["FenceMarkOut"] }) {
  return (
    <text x={props.x} y={props.y} fontSize={12} fill={inkSoft} textAnchor={props.end ? "end" : "start"}>
      {positionName[props.of.position]}
    </text>
  );
}

/** The answer in a sentence: when it gets there, or what it would take. */
export function says(asked: Schemas["FenceIn"], found: Schemas["FenceOut"]): string {
  const [mark] = found.marks;
  if (!mark) return "The cow tires before it comes that far.";
  if (mark.made) {
    const left = `${mark.made.clear.toFixed(0)} ft of fence left`;
    if (mark.made.seconds === 0) return `The horse is at its head already, with ${left}.`;
    const more = mark.start >= 1 ? ` The cow may have ${mark.start.toFixed(0)} ft more start.` : "";
    return `At its head after ${mark.made.seconds.toFixed(1)} s, with ${left}.${more}`;
  }
  const back = `the cow has to be ${Math.max(1, -mark.start).toFixed(0)} ft further back`;
  const faster = mark.least_top && mark.least_top > asked.top;
  return faster
    ? `Not before the fence ends: ${back}, or the horse has to run ${mark.least_top?.toFixed(0)} ft/s.`
    : `Not before the fence ends: ${back}. Let it go, and take another.`;
}
