import Box from "@mui/material/Box";
import type { Schemas } from "../../api/client";
import { bone, boneSoft, ink, inkSoft, paper, rule } from "../../theme/tokens";

type Rung = Schemas["RungOut"];

const WIDE = 188;
const HIGH = 62;
const GAP_X = 14;
const GAP_Y = 30;

const needOf = (need: string) => need.split("@")[0] ?? need;

/** What stands under a rung, left out or not. */
const belowOf = (rung: Rung) => [...new Set([...rung.below, ...rung.needs])];

/** How many rungs of the same ladder stand under each. */
function rows(rungs: Rung[]): Rung[][] {
  const depth = new Map<string, number>();
  const of = (rung: Rung): number => {
    const known = depth.get(rung.id);
    if (known !== undefined) return known;
    const below = rungs.filter((r) => belowOf(rung).some((n) => needOf(n) === r.id));
    const at = below.length === 0 ? 0 : 1 + Math.max(...below.map(of));
    depth.set(rung.id, at);
    return at;
  };
  const out: Rung[][] = [];
  for (const rung of rungs) (out[of(rung)] ??= []).push(rung);
  // A row of more than three is broken, so that the map fits beside the rung.
  return out.flatMap((row) =>
    Array.from({ length: Math.ceil(row.length / 3) }, (_, n) => row.slice(3 * n, 3 * n + 3)),
  );
}

/** A ladder as a map of its needs: each rung over those that must be owned first; needs on other ladders are named. */
export function LadderMap({
  rungs,
  all,
  picked,
  onPick,
}: {
  rungs: Rung[];
  all: Rung[];
  picked: string;
  onPick: (id: string) => void;
}) {
  const levels = rows(rungs).reverse();
  const most = Math.max(1, ...levels.map((l) => l.length));
  const width = most * (WIDE + GAP_X) - GAP_X;
  const height = levels.length * (HIGH + GAP_Y) - GAP_Y + 8;
  const place = new Map(
    levels.flatMap((level, row) =>
      level.map((rung, n) => {
        const left = (width - (level.length * (WIDE + GAP_X) - GAP_X)) / 2;
        return [rung.id, { x: left + n * (WIDE + GAP_X), y: row * (HIGH + GAP_Y) + 4 }] as const;
      }),
    ),
  );
  return (
    <Box sx={{ overflowX: "auto" }}>
      <Box
        component="svg"
        viewBox={`-4 0 ${width + 8} ${height}`}
        role="group"
        aria-label="Rungs and what they need, the first at the foot"
        sx={{ width: "100%", maxWidth: width + 8, minWidth: Math.min(width, 360), display: "block" }}
      >
        {rungs.flatMap((rung) =>
          belowOf(rung).map((need) => {
            const from = place.get(needOf(need));
            const to = place.get(rung.id);
            if (!from || !to) return null;
            const on = picked === rung.id || picked === needOf(need);
            return (
              <path
                key={rung.id + need}
                d={`M${from.x + WIDE / 2} ${from.y} C ${from.x + WIDE / 2} ${from.y - GAP_Y} ${to.x + WIDE / 2} ${to.y + HIGH + GAP_Y} ${to.x + WIDE / 2} ${to.y + HIGH}`}
                fill="none"
                stroke={on ? ink : rule}
                strokeWidth={on ? 2.5 : 2}
              />
            );
          }),
        )}
        {rungs.map((rung) => {
          const at = place.get(rung.id);
          if (!at) return null;
          const elsewhere = rung.needs.filter((n) => !place.has(needOf(n)));
          return (
            <Node
              key={rung.id}
              rung={rung}
              at={at}
              elsewhere={elsewhere}
              all={all}
              picked={picked === rung.id}
              onPick={onPick}
            />
          );
        })}
      </Box>
    </Box>
  );
}

/** A text as long as fits into a box of the map. */
const cut = (text: string, most: number) => (text.length > most ? `${text.slice(0, most - 1)}…` : text);

function Node({
  rung,
  at,
  elsewhere,
  all,
  picked,
  onPick,
}: {
  rung: Rung;
  at: { x: number; y: number };
  elsewhere: string[];
  all: Rung[];
  picked: boolean;
  onPick: (id: string) => void;
}) {
  const out = !rung.taught;
  const names = elsewhere.map((n) => `${n} ${all.find((r) => r.id === needOf(n))?.name ?? ""}`).join(", ");
  const needed = elsewhere.map((n) => all.find((r) => r.id === needOf(n))?.name ?? n);
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={picked}
      aria-label={`${rung.id} ${rung.name}${out ? (rung.passed ? ", passed by" : ", left out") : ""}${names ? `; also needs ${names}` : ""}`}
      transform={`translate(${at.x} ${at.y})`}
      onClick={() => onPick(rung.id)}
      onKeyDown={(e) => {
        if (e.key === "Enter" || e.key === " ") {
          e.preventDefault();
          onPick(rung.id);
        }
      }}
      style={{ cursor: "pointer" }}
    >
      <rect
        width={WIDE}
        height={HIGH}
        fill={picked ? ink : paper}
        stroke={out ? rule : ink}
        strokeWidth="1.5"
        strokeDasharray={out ? "4 4" : undefined}
      />
      <text x="9" y="20" fontSize="13" fontWeight="700" fill={picked ? bone : inkSoft}>
        {rung.id}
        {out ? (rung.passed ? " · passed by" : " · left out") : ""}
      </text>
      <text x="9" y="38" fontSize="14.5" fontWeight="650" fill={picked ? bone : out ? inkSoft : ink}>
        {cut(rung.name, 24)}
      </text>
      <text x="9" y="54" fontSize="12.5" fill={picked ? boneSoft : inkSoft}>
        {elsewhere.length > 0 ? cut(`needs ${needed.join(", ")}`, 32) : rung.gaits.join(", ")}
      </text>
    </g>
  );
}
