import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { people } from "../../api/queries";
import { ink, inkSoft, paper } from "../../theme/tokens";
import type { Now } from "./hands";

/** Hands the ride over: what is asked from now on is this rider's. What was logged stays whose it was. */
export function HandOver(props: {
  ride: Schemas["RideDetail"];
  now: Now;
  cattle: boolean;
  onChange: (now: Now) => void;
  onClose: () => void;
}) {
  const { ride, now } = props;
  const { data } = useQuery(people());
  const [cow, setCow] = useState(now.cow ?? "");
  // Where there is no cow to name, naming the rider is all there is to do.
  const hand = (p: { id: string; name: string }) => {
    props.onChange({ ...now, riderId: p.id === ride.rider_id ? null : p.id, riderName: p.name });
    if (!props.cattle) props.onClose();
  };
  const close = () => {
    props.onChange({ ...now, cow: cow.trim() || null });
    props.onClose();
  };
  return (
    <Dialog open onClose={close} aria-labelledby="hand-title" fullWidth maxWidth="xs">
      <DialogContent>
        <Typography variant="h2" id="hand-title">
          Who rides from here
        </Typography>
        <Typography sx={{ color: inkSoft, mb: 1 }}>What was logged stays with who rode it.</Typography>
        <Box role="group" aria-label="Riders" sx={{ display: "grid", gap: 0.75 }}>
          {(data?.items ?? [{ id: ride.rider_id, name: ride.rider_name }]).map((p) => {
            const on = (now.riderId ?? ride.rider_id) === p.id;
            return (
              <Box
                key={p.id}
                component="button"
                type="button"
                aria-pressed={on}
                onClick={() => hand(p)}
                sx={{
                  font: "inherit",
                  fontWeight: 650,
                  minHeight: 56,
                  border: `2px solid ${ink}`,
                  background: on ? ink : "transparent",
                  color: on ? paper : ink,
                  cursor: "pointer",
                }}
              >
                {p.name}
              </Box>
            );
          })}
        </Box>
        {props.cattle && (
          <TextField
            label="Which cow"
            value={cow}
            onChange={(e) => setCow(e.target.value)}
            slotProps={{ htmlInput: { maxLength: 40 } }}
            sx={{ mt: 1.5 }}
          />
        )}
        <Button variant="contained" onClick={close} sx={{ mt: 1.5, minHeight: 56 }} fullWidth>
          Ride on
        </Button>
      </DialogContent>
    </Dialog>
  );
}
