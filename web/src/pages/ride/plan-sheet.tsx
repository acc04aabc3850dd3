import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { figures, plan as planQuery, rideChanged } from "../../api/queries";
import { figureChoices } from "../../parts/figure-choice";
import { HeatLine } from "../../parts/heat";
import { FormTrouble } from "../../parts/states";
import { denim, inkSoft, paper, rule, rust } from "../../theme/tokens";
import { newId } from "../../parts/ids";

/** The planned ride in full: what, why, what waits, and the trainer's changes to it. */
export function PlanSheet(props: {
  ride: Schemas["RideDetail"];
  plan: Schemas["PlanOut"];
  book: Schemas["CurriculumOut"];
  mayChange: boolean;
  onClose: () => void;
}) {
  const { ride, plan, book } = props;
  const client = useQueryClient();
  const [, setAsked] = useSearchParams();
  const all = useQuery(figures).data;
  const [swapping, setSwapping] = useState<string | null>(null);
  const path = { ride: ride.id };
  const keep = (now: Schemas["PlanOut"]) => {
    client.setQueryData(planQuery(ride.id).queryKey, now);
    rideChanged(client, ride.horse_id);
    setSwapping(null);
  };
  const edit = useMutation({
    mutationFn: (body: Schemas["EditIn"]) =>
      ask(
        api.PUT("/api/rides/{ride}/plan/{id}", {
          params: { path: { ...path, id: newId() } },
          body,
        }),
      ),
    onSuccess: keep,
  });
  const clear = useMutation({
    mutationFn: () => ask(api.DELETE("/api/rides/{id}/plan", { params: { path: { id: ride.id } } })),
    onSuccess: keep,
  });
  const steps = book.steps.filter((s) => book.rungs.find((r) => r.id === s.rung)?.taught);
  const picker = (label: string, pick: (step: string) => void) => (
    <TextField
      select
      label={label}
      defaultValue=""
      onChange={(e) => pick(e.target.value)}
      sx={{ maxWidth: 360 }}
    >
      {steps.map((s) => (
        <MenuItem key={s.id} value={s.id}>
          {s.rung} {s.name}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <Dialog open onClose={props.onClose} aria-labelledby="plan-title" fullWidth maxWidth="md">
      <DialogContent>
        <Typography variant="h2" id="plan-title">
          The ride of {ride.horse_name}
        </Typography>
        <Box component="ul" sx={{ pl: 2.5, my: 1 }}>
          {plan.why.map((why) => (
            <li key={why}>{why}.</li>
          ))}
          {plan.next_best && <li>{plan.next_best.why}.</li>}
        </Box>
        {plan.heat && <HeatLine heat={plan.heat} />}
        <Box component="ol" aria-label="Parts" sx={{ listStyle: "none", p: 0, my: 1.5 }}>
          {plan.parts.map((p, n) => {
            const step = p.step;
            return (
              <Box
                component="li"
                key={n}
                sx={{
                  display: "grid",
                  gridTemplateColumns: { xs: "1fr", sm: "112px minmax(0, 1fr) auto" },
                  gap: { xs: 0.25, sm: 1.5 },
                  py: 0.75,
                  borderTop: `1px solid ${rule}`,
                  alignItems: "center",
                }}
              >
                <Box sx={{ color: inkSoft }}>
                  {p.purpose === "set-ups" ? "set up" : p.purpose}, {p.minutes} min
                </Box>
                <Box>
                  {p.name && (
                    <b>
                      {p.name}
                      {p.reps != null && `, ${p.reps} asks`}{" "}
                    </b>
                  )}
                  {p.left != null && p.left !== p.right && (
                    <>
                      <Box component="b" sx={{ color: denim }}>
                        L {p.left}
                      </Box>{" "}
                      /{" "}
                      <Box component="b" sx={{ color: rust }}>
                        {p.right} R
                      </Box>{" "}
                    </>
                  )}
                  <div>{p.says}.</div>
                  {swapping === step &&
                    step &&
                    picker("Instead", (into) => edit.mutate({ edit: "swap", step, into }))}
                </Box>
                {props.mayChange && step && (
                  <Box sx={{ display: "flex" }}>
                    <Button aria-label={`Swap ${p.name ?? ""}`} onClick={() => setSwapping(step)}>
                      Swap
                    </Button>
                    <Button
                      aria-label={`Drop ${p.name ?? ""}`}
                      disabled={edit.isPending}
                      onClick={() => edit.mutate({ edit: "drop", step, into: null })}
                    >
                      Drop
                    </Button>
                  </Box>
                )}
              </Box>
            );
          })}
        </Box>
        <Typography sx={{ mb: 1.5 }}>Today: {plan.quit}.</Typography>
        <FormTrouble error={edit.error ?? clear.error} />
        <Box
          sx={{
            display: "flex",
            gap: 1.5,
            flexWrap: "wrap",
            alignItems: "center",
            position: "sticky",
            bottom: -20,
            py: 1.5,
            background: paper,
            borderTop: `1px solid ${rule}`,
          }}
        >
          <Button variant="contained" onClick={props.onClose}>
            Ride it
          </Button>
          {props.mayChange &&
            picker("Add a subject", (step) => edit.mutate({ edit: "add", step, into: null }))}
          {all && (
            <TextField
              select
              label="Call a figure"
              value=""
              onChange={(e) => {
                setAsked({ figure: e.target.value });
                props.onClose();
              }}
              sx={{ width: 200 }}
            >
              {figureChoices(all).map(([id, name]) => (
                <MenuItem key={id} value={id}>
                  {name}
                </MenuItem>
              ))}
            </TextField>
          )}
          {plan.edited && (
            <Button onClick={() => clear.mutate()} disabled={clear.isPending}>
              Undo changes
            </Button>
          )}
        </Box>
      </DialogContent>
    </Dialog>
  );
}
