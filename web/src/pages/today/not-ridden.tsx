import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { today } from "../../api/queries";
import { Panel } from "../../parts/panel";
import { FormTrouble } from "../../parts/states";
import { day, missedName } from "../../parts/words";
import { ink, inkSoft, marigold, rule } from "../../theme/tokens";

type Ride = Schemas["RideOut"];
type Why = Schemas["MissedReason"];

/** Asks why a planned ride was not ridden: one tap is the answer. */
export function WhyNot({
  ride,
  onMissed,
  children,
}: {
  ride: Ride;
  onMissed: (ride: Ride) => void;
  /** What else can be done with it. */
  children?: ReactNode;
}) {
  const client = useQueryClient();
  const say = useMutation({
    mutationFn: (why: Why) =>
      ask(api.PUT("/api/rides/{id}/missed", { params: { path: { id: ride.id } }, body: { why } })),
    onSuccess: (missed) => {
      void client.invalidateQueries({ queryKey: today.queryKey });
      onMissed(missed);
    },
  });
  return (
    <Box role="group" aria-label={`Why was ${ride.horse_name} not ridden`} sx={{ display: "grid", gap: 0.5 }}>
      <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap" }}>
        {(Object.entries(missedName) as [Why, string][]).map(([why, name]) => (
          <Button
            key={why}
            variant="outlined"
            disabled={say.isPending}
            onClick={() => say.mutate(why)}
            sx={{ minHeight: 44 }}
          >
            {name}
          </Button>
        ))}
        {children}
      </Box>
      <FormTrouble error={say.error} />
    </Box>
  );
}

/** A ride that was not ridden, and the way back. */
export function Missed({ ride }: { ride: Ride }) {
  const client = useQueryClient();
  const back = useMutation({
    mutationFn: () => ask(api.DELETE("/api/rides/{id}/missed", { params: { path: { id: ride.id } } })),
    onSettled: () => client.invalidateQueries({ queryKey: today.queryKey }),
  });
  return (
    <Box sx={{ display: "grid", gap: 0.5, justifyItems: "end", textAlign: "right" }}>
      <Typography sx={{ color: inkSoft, fontWeight: 600 }}>
        Not ridden{ride.missed && `: ${missedName[ride.missed].toLowerCase()}`}
      </Typography>
      <Button
        size="small"
        disabled={back.isPending}
        onClick={() => back.mutate()}
        aria-label={`Ride ${ride.horse_name} after all`}
      >
        {back.error ? "Couldn't undo: try again" : "Ride it after all"}
      </Button>
    </Box>
  );
}

/** Rides of the last days that nobody logged and nobody said why. */
export function Unanswered({ rides, onMissed }: { rides: Ride[]; onMissed: (ride: Ride) => void }) {
  if (rides.length === 0) return null;
  return (
    <Panel by="unanswered" edge={marigold} tight below={2}>
      <details>
        <summary>
          <Typography component="span" variant="h2" id="unanswered">
            {rides.length === 1 ? "One planned ride was" : `${rides.length} planned rides were`} not logged
          </Typography>
        </summary>
        <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
          {rides.map((ride) => (
            <Box component="li" key={ride.id} sx={{ borderTop: `1px solid ${rule}`, py: 1, mt: 1 }}>
              <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", mb: 0.5 }}>
                <b>{ride.horse_name}</b>
                <span>
                  {day(ride.date)}, {ride.rider_name}
                </span>
                <Link to={`/horses/${ride.horse_id}/afterwards`} style={{ color: ink }}>
                  It was ridden: log it
                </Link>
              </Box>
              <WhyNot ride={ride} onMissed={onMissed} />
            </Box>
          ))}
        </Box>
      </details>
    </Panel>
  );
}
