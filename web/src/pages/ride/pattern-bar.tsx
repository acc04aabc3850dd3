import Box from "@mui/material/Box";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { patternToday, setUps } from "../../api/queries";
import { LogPass, useWaitingPasses } from "../../parts/log-pass";
import { onTape } from "../../parts/lengths";
import { useMe } from "../../parts/me";
import { faces, type Face } from "../../theme/tokens";
import { Big } from "./big";

/** While the pattern is the subject: the pocket wanted at each barrel, and a pass in a few taps. */
export function PatternBar(props: {
  ride: Schemas["RideDetail"];
  step: Schemas["StepOut"];
  rung: Schemas["RungOut"];
  face: Face;
}) {
  const { ride, step, face } = props;
  const { units } = useMe().barn;
  const [open, setOpen] = useState(false);
  const onPattern = props.rung.pattern;
  const kept = useQuery({ ...setUps, enabled: onPattern }).data?.items;
  const plan = useQuery({ ...patternToday(ride.horse_id), enabled: onPattern }).data;
  const unsent = useWaitingPasses(ride.horse_id).length;
  // The one of the place that it is ridden in, else the latest.
  const setUp = kept?.find((s) => s.ground_id === ride.ground_id) ?? kept?.[0];
  if (!onPattern || !setUp) return null;
  const block = plan?.blocks.find((b) => b.gait === step.gait) ?? plan?.blocks[0];
  const look = faces[face];
  return (
    <Box component="section" aria-label="The pattern" sx={{ display: "grid", gap: "6px", mb: "6px" }}>
      <Box sx={{ display: "flex", gap: "6px", flexWrap: "wrap" }}>
        {setUp.set_up.barrels.map((barrel, n) => {
          const pocket = block?.pockets[n]?.pocket ?? barrel.pocket;
          const why = block?.pockets[n]?.why;
          return (
            <Box
              key={n}
              sx={{
                flex: 1,
                minWidth: 104,
                background: look.panel,
                borderLeft: `5px solid ${look[barrel.turn]}`,
                px: 1,
                py: 0.5,
              }}
            >
              <b>
                {n + 1}: {onTape(units, pocket.entry)}
              </b>{" "}
              in
              {why && <Typography sx={{ fontSize: "0.85rem", color: look.muted }}>{why}</Typography>}
            </Box>
          );
        })}
      </Box>
      <Big face={face} onClick={() => setOpen(true)}>
        {unsent > 0 ? `Log a pass (${unsent} not sent yet)` : "Log a pass"}
      </Big>
      {open && (
        <Dialog open fullScreen onClose={() => setOpen(false)} aria-labelledby="pass-title">
          <DialogContent>
            <Box sx={{ display: "flex", justifyContent: "space-between", mb: 1.5 }}>
              <Typography variant="h2" id="pass-title">
                A pass on {ride.horse_name}
              </Typography>
              <Button variant="outlined" onClick={() => setOpen(false)}>
                Back to the ride
              </Button>
            </Box>
            <LogPass horse={ride.horse_id} setUp={setUp} units={units} ride={ride} gait={step.gait} />
          </DialogContent>
        </Dialog>
      )}
    </Box>
  );
}
