import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../../api/client";
import { denim, rule, rust } from "../../theme/tokens";

/** How the horse drifts at each barrel, week by week: right and left barrels are two horses. */
export function Drifts({ drifts }: { drifts: Schemas["DriftOut"][] }) {
  if (drifts.length === 0) return null;
  const weeks = [...new Set(drifts.map((d) => d.week))].sort().slice(-8);
  const barrels = [...new Set(drifts.map((d) => d.barrel))].sort((a, b) => a - b);
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <Typography component="figcaption" sx={{ fontWeight: 650 }}>
        Close or wide, week by week
      </Typography>
      {barrels.map((barrel) => {
        const of = drifts.filter((d) => d.barrel === barrel);
        const hand = of.at(-1)?.hand ?? "left";
        const last = of.at(-1)?.drift ?? 0;
        return (
          <Box
            key={barrel}
            sx={{
              display: "grid",
              gridTemplateColumns: "92px minmax(0, 1fr) 84px",
              gap: 1,
              alignItems: "center",
            }}
          >
            <span>
              {barrel + 1}, {hand}
            </span>
            <svg viewBox={`0 0 ${weeks.length * 26} 34`} height={34} role="img" aria-hidden="true">
              <line x1={0} x2={weeks.length * 26} y1={17} y2={17} stroke={rule} />
              {weeks.map((week, n) => {
                const d = of.find((one) => one.week === week);
                if (!d) return null;
                const high = Math.abs(d.drift) * 16;
                return (
                  <rect
                    key={week}
                    x={n * 26 + 5}
                    width={16}
                    y={d.drift > 0 ? 17 - high : 17}
                    height={Math.max(high, 1.5)}
                    fill={hand === "left" ? denim : rust}
                  />
                );
              })}
            </svg>
            <span>{last > 0.15 ? "wide" : last < -0.15 ? "close" : "as planned"}</span>
          </Box>
        );
      })}
    </Box>
  );
}
