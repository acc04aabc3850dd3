import Box from "@mui/material/Box";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused, type Schemas } from "../../api/client";
import { rideChanged } from "../../api/queries";
import { numbers } from "../../parts/numbers";
import { FormTrouble } from "../../parts/states";
import { CorrectionActions } from "./correction-actions";
import { outcomesOf } from "../ride/tray";

type Props = {
  horse: string;
  rep: Schemas["RepOut"];
  rung: string;
  book: Schemas["CurriculumOut"];
  onClose: () => void;
};

/** Puts a wrongly logged rep right, or takes it out; the trace keeps what it was. */
export function CorrectRep({ horse, rep, rung, book, onClose }: Props) {
  const client = useQueryClient();
  const choices = outcomesOf(
    book.rungs.find((r) => r.id === rung) ?? ({ answer: [] as string[] } as Schemas["RungOut"]),
  );
  const all =
    rep.outcome === "tried" && !rep.missing
      ? [...choices, { outcome: "tried" as const, missing: null, label: "Tried", key: "-" }]
      : choices;
  const unique = all.filter(
    (c, n) => all.findIndex((d) => d.outcome === c.outcome && d.missing === c.missing) === n,
  );
  const [choice, setChoice] = useState(
    unique.findIndex((c) => c.outcome === rep.outcome && c.missing === (rep.missing ?? null)),
  );
  const [weight, setWeight] = useState(rep.weight);
  const [seconds, setSeconds] = useState(rep.seconds == null ? "" : String(rep.seconds));
  const correct = useMutation({
    mutationFn: (removed: boolean) => {
      const { outcome, missing } = unique[choice] ?? rep;
      const body = {
        version: rep.version,
        outcome,
        missing,
        weight,
        ...numbers({ seconds }),
        faults: rep.faults,
        removed,
      };
      return ask(api.PATCH("/api/reps/{id}", { params: { path: { id: rep.id } }, body }));
    },
    onSuccess: () => {
      rideChanged(client, horse);
      onClose();
    },
  });
  const refused = correct.error instanceof Refused ? correct.error : null;
  const stale = refused?.problem.type === "/problems/changed-meanwhile";
  return (
    <Dialog open onClose={onClose} aria-labelledby="correct-title" fullWidth maxWidth="xs">
      <DialogContent>
        <Typography variant="h2" id="correct-title" sx={{ mb: 2 }}>
          Put this rep right
        </Typography>
        <Box
          component="form"
          noValidate
          onSubmit={(e) => (e.preventDefault(), correct.mutate(false))}
          sx={{ display: "grid", gap: 2 }}
        >
          <TextField
            select
            label="Outcome"
            value={choice}
            onChange={(e) => setChoice(Number(e.target.value))}
          >
            {unique.map((c, n) => (
              <MenuItem key={c.label} value={n}>
                {c.label}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            label="Weight"
            value={weight}
            onChange={(e) => setWeight(e.target.value as typeof weight)}
          >
            {book.weights.map((w) => (
              <MenuItem key={w.weight} value={w.weight}>
                {w.weight}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            label="Seconds, empty if not measured"
            value={seconds}
            onChange={(e) => setSeconds(e.target.value)}
            error={!!refused?.field("seconds")}
            helperText={refused?.field("seconds")}
            slotProps={{ htmlInput: { inputMode: "decimal" } }}
          />
          {!refused?.problem.errors?.length && <FormTrouble error={correct.error} />}
          <CorrectionActions
            stale={stale}
            busy={correct.isPending}

            onShowNow={() => (rideChanged(client, horse), onClose())}
            onRemove={() => correct.mutate(true)}
            onCancel={onClose}
          />
        </Box>
      </DialogContent>
    </Dialog>
  );
}
