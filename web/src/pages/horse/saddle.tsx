import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { percent, sideName } from "../../parts/words";
import { denim, ink, inkSoft, paper, rule, rust, softness } from "../../theme/tokens";

type Zone = Schemas["Zone"];
type Picked = { zone: Zone; side: "left" | "right" };

/** The left half of each part of the horse, from above, ears at the top; the right half is its mirror. */
const parts: { zone: Zone; name: string; path: string; at: number }[] = [
  {
    zone: "poll",
    name: "face, poll",
    path: "M130 20C113 20 107 38 109 58c1 16 8 28 21 31z",
    at: 56,
  },
  { zone: "neck", name: "neck", path: "M130 92c-8 0-16-2-20-4-4 20-10 46-18 68l38 6z", at: 126 },
  { zone: "shoulders", name: "shoulders", path: "M130 165l-39-6c-17 8-25 28-25 58l64 5z", at: 194 },
  { zone: "ribs", name: "ribs", path: "M130 225l-65-5c-5 24-5 62 3 90h62z", at: 270 },
  { zone: "hips", name: "hips", path: "M130 313H69c-1 30 12 58 36 66l25 3z", at: 346 },
  {
    zone: "feet",
    name: "hind feet",
    path: "M96 384c-14 2-24 10-24 19 0 8 8 12 20 11 9-1 14-8 14-16z",
    at: 402,
  },
];

/** The view from the saddle: how soft each part is, left and right. A part picked shows the steps behind it. */
export function Saddle({
  standing,
  onPick,
}: {
  standing: Schemas["StandingOut"];
  onPick: (step: string) => void;
}) {
  const [picked, setPicked] = useState<Picked | null>(null);
  const of = (zone: Zone, side: "left" | "right") =>
    standing.zones.find((z) => z.zone === zone && z.side === side);
  const shown = picked && of(picked.zone, picked.side);
  return (
    <Box component="section" aria-labelledby="saddle" sx={{ minWidth: 0 }}>
      <Typography variant="h2" id="saddle">
        From the saddle
      </Typography>
      <Box
        component="svg"
        viewBox="0 0 260 424"
        sx={{ width: "100%", maxWidth: 300, display: "block", mx: "auto", mt: 0.5 }}
        role="group"
        aria-label="The horse from above, left and right"
      >
        <path
          d="M118 26c-9-4-11-13-9-22 7 4 12 11 13 19zM142 26c9-4 11-13 9-22-7 4-12 11-13 19z"
          fill={ink}
        />
        <path d="M130 382c-4 12-5 24-2 38h4c3-14 2-26-2-38z" fill={ink} />
        {parts.map((part) => (
          <g key={part.zone}>
            {(["left", "right"] as const).map((side) => (
              <Half
                key={side}
                part={part}
                side={side}
                of={of(part.zone, side)}
                picked={picked?.zone === part.zone && picked.side === side}
                onPick={() => setPicked({ zone: part.zone, side })}
              />
            ))}
            <text
              x="130"
              y={part.at + 5}
              textAnchor="middle"
              fontSize="13"
              fontWeight="600"
              fill={ink}
              stroke={paper}
              strokeWidth="4"
              paintOrder="stroke"
              pointerEvents="none"
            >
              {part.name}
            </text>
          </g>
        ))}
        <path d="M104 232c0-9 52-9 52 0l4 46c0 10-60 10-60 0z" fill="none" stroke={ink} strokeWidth="1.6" />
      </Box>
      <Typography sx={{ color: inkSoft, fontSize: "0.9rem", textAlign: "center" }}>
        {picked ? null : "Pick a part to see the rungs behind it."}
      </Typography>
      {picked && (
        <Box sx={{ border: `1px solid ${rule}`, background: paper, p: 1.25 }} data-zone={picked.zone}>
          <b>
            {sideName[picked.side]} {parts.find((p) => p.zone === picked.zone)?.name}
          </b>
          {!shown && <Typography sx={{ color: inkSoft }}>No reps yet on a rung that shows there.</Typography>}
          {shown?.steps.map((id) => {
            const step = standing.steps.find((s) => s.id === id);
            const side = step?.sides.find((s) => s.side === picked.side || s.side === "both");
            return (
              <Box
                key={id}
                component="button"
                type="button"
                onClick={() => onPick(id)}
                sx={{
                  font: "inherit",
                  color: ink,
                  background: "none",
                  border: 0,
                  borderTop: `1px solid ${rule}`,
                  display: "flex",
                  justifyContent: "space-between",
                  gap: 1,
                  width: "100%",
                  minHeight: 36,
                  alignItems: "center",
                  textAlign: "left",
                  cursor: "pointer",
                  "&:hover": { textDecoration: "underline" },
                }}
              >
                <span>{step?.name ?? id}</span>
                <b>{side ? `${percent(side.share.mean)}, met ${side.met} of ${side.reps}` : ""}</b>
              </Box>
            );
          })}
        </Box>
      )}
    </Box>
  );
}

function Half({
  part,
  side,
  of,
  picked,
  onPick,
}: {
  part: (typeof parts)[number];
  side: "left" | "right";
  of?: Schemas["ZoneOut"];
  picked: boolean;
  onPick: () => void;
}) {
  const says = of ? percent(of.share) : "–";
  const colour = side === "left" ? denim : rust;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={picked}
      aria-label={`${sideName[side]} ${part.name}: ${of ? `${says} of reps at the standard` : "no reps yet"}`}
      onClick={onPick}
      onKeyDown={(e) => {
        if (e.key === "Enter" || e.key === " ") {
          e.preventDefault();
          onPick();
        }
      }}
      style={{ cursor: "pointer" }}
    >
      <rect x={side === "left" ? 0 : 130} y={part.at - 30} width="130" height="60" fill="transparent" />
      <path
        d={part.path}
        transform={side === "right" ? "translate(260 0) scale(-1 1)" : undefined}
        fill={of ? softness(of.share) : paper}
        stroke={picked ? ink : of ? paper : rule}
        strokeWidth={picked ? 3 : 1.5}
      />
      <text
        x={side === "left" ? 4 : 256}
        y={part.at + 7}
        textAnchor={side === "left" ? "start" : "end"}
        fontSize="19"
        fontWeight="700"
        fill={of ? colour : inkSoft}
      >
        {says}
      </text>
    </g>
  );
}
