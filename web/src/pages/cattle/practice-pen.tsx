import Box from "@mui/material/Box";
import type { PointerEvent } from "react";
import type { Schemas } from "../../api/client";
import { bone, denim, ink, inkSoft, leather, marigold, oxblood, paper, rule } from "../../theme/tokens";

type Out = Schemas["PracticeOut"];

/** The pen from above: the herd on the near side, the cow with its flight zone, the horse between, and where it is wanted. */
export function PracticePen(props: {
  of: Out;
  target: { x: number; y: number } | null;
  onPlace: (x: number, y: number) => void;
}) {
  const { now, zone, pen } = props.of;
  const [wide = 80, deep = 60] = pen;
  const up = (y: number) => deep - y;
  const point = (e: PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    props.onPlace(
      ((e.clientX - box.left) / box.width) * wide,
      deep - ((e.clientY - box.top) / box.height) * deep,
    );
  };
  const { cow, horse, way } = now;
  const turned = (Math.atan2(-horse.vy, horse.vx) * 180) / Math.PI;
  const facing = Math.hypot(horse.vx, horse.vy) > 1 ? turned : way > 0 ? 0 : 180;
  const herd = Array.from({ length: 11 }, (_, n) => 5 + n * 7);
  return (
    <Box
      sx={{
        background: bone,
        border: `3px solid ${leather}`,
        touchAction: "none",
        maxWidth: "min(860px, calc(133vh - 430px))",
        minWidth: { md: 480 },
      }}
    >
      <svg
        viewBox={`0 0 ${wide} ${deep}`}
        width="100%"
        role="img"
        aria-label={`The cow is ${Math.round(cow.x)} ft along and ${Math.round(cow.y)} ft out, the horse ${Math.round(horse.x)} and ${Math.round(horse.y)}`}
        onPointerMove={(e) => (e.buttons > 0 || e.pointerType === "mouse") && point(e)}
        onPointerDown={point}
        style={{ display: "block", cursor: "crosshair" }}
      >
        <path d={`M0 ${up(10)}H${wide}`} stroke={rule} strokeWidth={0.5} strokeDasharray="1.5 1.5" />
        {herd.map((x) => (
          <ellipse key={x} cx={x} cy={up(4)} rx={2.6} ry={1.5} fill={inkSoft} opacity={0.55} />
        ))}
        <circle
          cx={cow.x}
          cy={up(cow.y)}
          r={zone}
          fill="none"
          stroke={oxblood}
          strokeWidth={0.3}
          strokeDasharray="1 1.2"
          opacity={0.7}
        />
        {props.target && (
          <g stroke={marigold} strokeWidth={0.6}>
            <path
              d={`M${props.target.x - 1.6} ${up(props.target.y)}h3.2M${props.target.x} ${up(props.target.y) - 1.6}v3.2`}
            />
          </g>
        )}
        <g transform={`translate(${cow.x} ${up(cow.y)}) scale(${way} 1)`}>
          <ellipse cx={-2.4} rx={2.9} ry={1.5} fill={oxblood} />
          <ellipse cx={0.9} rx={1.1} ry={0.9} fill={ink} />
        </g>
        <g transform={`translate(${horse.x} ${up(horse.y)}) rotate(${facing})`}>
          <ellipse cx={-3.2} rx={3.6} ry={1.3} fill={denim} />
          <path d="M-0.6 -0.8L2.4 -0.5a0.6 0.6 0 0 1 0 1L-0.6 0.8z" fill={denim} />
          <circle cx={-3.6} r={0.8} fill={paper} />
        </g>
      </svg>
    </Box>
  );
}
