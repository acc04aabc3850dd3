import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { eventOf } from "../../api/queries";
import { day } from "../../parts/words";
import { inkSoft, rule } from "../../theme/tokens";

/** The runs of a day over this set-up, by division: how the barn's horses stand to each other. */
export function Event({ setUp, on }: { setUp: string; on: string }) {
  const { data } = useQuery(eventOf(setUp, on));
  if (!data || data.items.length < 2) return null;
  return (
    <Box component="section" aria-label={`Runs of ${day(on)}`}>
      <Typography sx={{ fontWeight: 650 }}>Runs of {day(on)}, by division</Typography>
      <Typography sx={{ color: inkSoft, fontSize: "0.9rem" }}>
        A division begins {data.spreads.map((s) => s.toFixed(1)).join(", ")} s from the fastest.
      </Typography>
      <Box component="ol" sx={{ m: 0, p: 0, listStyle: "none" }}>
        {data.items.map((run) => (
          <Box
            component="li"
            key={run.pass_id}
            sx={{ display: "flex", gap: 1.5, borderTop: `1px solid ${rule}`, py: 0.5 }}
          >
            <b>
              {run.division}.{run.place}
            </b>
            <Box sx={{ flex: 1, minWidth: 0 }}>
              {run.horse}, {run.rider}
              {run.knocked > 0 && `, ${run.knocked} down`}
            </Box>
            <b>{run.official.toFixed(2)} s</b>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
