import Box from "@mui/material/Box";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { day, sideName, type Side } from "../../parts/words";
import { denim, ink, inkSoft, paper, rust, sage } from "../../theme/tokens";

type Point = Schemas["AnswersPoint"];
type Scale = "weight" | "seconds";

const WIDTH = 320;
const MIDDLE = WIDTH / 2;
const REACH = MIDDLE - 12;
const ROW = 13;
const DAYS = 16;
const colours: Record<Side, string> = { left: denim, right: rust, both: sage };

type Props = {
  points: Point[];
  weights: Schemas["WeightOut"][];
  standard: Schemas["StandardOut"];
};

/** Weight or seconds over the days, mirrored: the nearer the middle, the lighter or the sooner. */
export function Answers({ points, weights, standard }: Props) {
  const [scale, setScale] = useState<Scale>("weight");
  const dates = [...new Set(points.map((p) => p.date))].slice(-DAYS);
  const shown = points.filter((p) => dates.includes(p.date));
  const sides: Side[] = shown.some((p) => p.side === "both") ? ["both"] : ["left", "right"];
  const axis = axisOf(scale, shown, weights, standard);
  const height = dates.length * ROW + 34;
  const y = (date: string) => 26 + dates.indexOf(date) * ROW;
  return (
    <Box component="figure" sx={{ m: 0, mt: 2 }}>
      <Box role="group" aria-label="What is traced" sx={{ display: "flex", gap: 0.75, mb: 0.5 }}>
        {(["weight", "seconds"] as const).map((s) => (
          <Box
            key={s}
            component="button"
            type="button"
            aria-pressed={scale === s}
            onClick={() => setScale(s)}
            sx={{
              font: "inherit",
              fontWeight: 650,
              minHeight: 40,
              px: 1.5,
              border: `1.5px solid ${ink}`,
              background: scale === s ? ink : paper,
              color: scale === s ? paper : ink,
              cursor: "pointer",
            }}
          >
            {s === "weight" ? "Weight" : "Seconds"}
          </Box>
        ))}
      </Box>
      <Box
        component="svg"
        viewBox={`0 0 ${WIDTH} ${height}`}
        role="img"
        aria-label={summary(scale, shown, sides, weights)}
        sx={{ width: "100%", maxWidth: 360, display: "block" }}
      >
        {sides.map((side) => {
          const sign = side === "left" ? -1 : 1;
          const from = side === "both" ? 12 : MIDDLE;
          const reach = side === "both" ? WIDTH - 24 : REACH;
          const x = (value: number) => from + sign * Math.min(1, value / axis.most) * reach;
          const mine = shown.filter((p) => p.side === side);
          const middles = mine.flatMap((p) => {
            const value = scale === "weight" ? p.weight : p.seconds;
            return value == null ? [] : [`${x(value)},${y(p.date)}`];
          });
          return (
            <g key={side}>
              <text
                x={from + sign * 4}
                y={11}
                textAnchor={side === "left" ? "end" : "start"}
                fontSize="13"
                fontWeight="700"
                fill={colours[side]}
              >
                {sideName[side]}
              </text>
              <text x={x(axis.standard)} y={11} textAnchor="middle" fontSize="12" fill={inkSoft}>
                {axis.name}
              </text>
              <line
                x1={x(axis.standard)}
                x2={x(axis.standard)}
                y1={16}
                y2={height - 4}
                stroke={ink}
                strokeDasharray="3 3"
              />
              <polyline points={middles.join(" ")} fill="none" stroke={colours[side]} strokeWidth="2.5" />
              {mine.map((p) => {
                const first = axis.of(p.first);
                const best = p.best ? axis.of(p.best) : null;
                return (
                  <g key={p.date}>
                    {first !== null && (
                      <circle
                        cx={x(first)}
                        cy={y(p.date)}
                        r={4}
                        fill={paper}
                        stroke={colours[side]}
                        strokeWidth="1.6"
                      />
                    )}
                    {best !== null && <circle cx={x(best)} cy={y(p.date)} r={3.2} fill={colours[side]} />}
                  </g>
                );
              })}
            </g>
          );
        })}
        {sides.length > 1 && (
          <line x1={MIDDLE} x2={MIDDLE} y1={4} y2={height - 4} stroke={ink} strokeWidth="1.5" />
        )}
      </Box>
      <Box component="figcaption" sx={{ color: inkSoft, fontSize: "0.88rem" }}>
        Rings: the first ask of a day. Dots: its best. Line: the middle one. Dashes: the standard.
      </Box>
    </Box>
  );
}

function axisOf(scale: Scale, shown: Point[], weights: Props["weights"], standard: Props["standard"]) {
  if (scale === "weight") {
    const step = (weight: string) => weights.findIndex((w) => w.weight === weight);
    const of = (answer: Schemas["TracedAnswer"]) => step(answer.weight);
    return { of, most: weights.length - 1, standard: step(standard.weight), name: standard.weight };
  }
  const of = (answer: Schemas["TracedAnswer"]) => answer.seconds ?? null;
  const seen = shown.flatMap((p) => [p.first.seconds ?? 0, p.seconds ?? 0]);
  // A slow ask or two do not press the rest against the middle.
  const most = Math.min(Math.max(2 * standard.seconds, ...seen), 4 * standard.seconds);
  return { of, most, standard: standard.seconds, name: `${standard.seconds} s` };
}

function summary(scale: Scale, shown: Point[], sides: Side[], weights: Props["weights"]): string {
  const told = (answer: Schemas["TracedAnswer"]) =>
    scale === "weight"
      ? (weights.find((w) => w.weight === answer.weight)?.phrase ?? answer.weight)
      : answer.seconds == null
        ? "no time"
        : `${answer.seconds.toFixed(1)} s`;
  return sides
    .flatMap((side) => {
      const last = shown.findLast((p) => p.side === side);
      if (!last) return [];
      const best = last.best ? told(last.best) : "none at the standard";
      return [`${sideName[side]} on ${day(last.date)}: first ask ${told(last.first)}, best ${best}`];
    })
    .join(". ");
}
