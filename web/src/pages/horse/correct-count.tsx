import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused, type Schemas } from "../../api/client";
import { rideChanged } from "../../api/queries";
import { CountFields } from "../../parts/count-fields";
import { countOf, draftOf } from "../../parts/counts";
import { FormTrouble } from "../../parts/states";

type Props = {
  horse: string;
  id: string;
  counted: Schemas["CountOut"];
  onClose: () => void;
};

/** Puts a wrongly logged count right, or takes it out; the trace keeps what it was. */
export function CorrectCount({ horse, id, counted, onClose }: Props) {
  const client = useQueryClient();
  const [draft, setDraft] = useState(() => draftOf(counted.count));
  const typed = countOf(counted.count.kind, draft);
  const asked = counted.count.kind === "rein-share" ? { asked: counted.count.asked } : {};
  const correct = useMutation({
    mutationFn: (removed: boolean) => {
      const count = { ...(typed ?? counted.count), ...asked } as Schemas["Count"];
      const body = { version: counted.version, count, faults: counted.faults, removed };
      return ask(api.PATCH("/api/counts/{id}", { params: { path: { id } }, body }));
    },
    onSuccess: () => {
      rideChanged(client, horse);
      onClose();
    },
  });
  const refused = correct.error instanceof Refused ? correct.error : null;
  const wrong = refused?.field("count");
  return (
    <Dialog open onClose={onClose} aria-labelledby="correct-count-title" fullWidth maxWidth="xs">
      <DialogContent>
        <Typography variant="h2" id="correct-count-title" sx={{ mb: 0.5 }}>
          Put this count right
        </Typography>
        <Typography sx={{ mb: 2 }}>It says: {counted.says}.</Typography>
        <Box
          component="form"
          noValidate
          onSubmit={(e) => (e.preventDefault(), correct.mutate(false))}
          sx={{ display: "grid", gap: 2 }}
        >
          <CountFields kind={counted.count.kind} draft={draft} onChange={setDraft} of="this count" />
          {wrong && (
            <Typography role="alert" color="error">
              {wrong}
            </Typography>
          )}
          {!wrong && <FormTrouble error={correct.error} />}
          {refused?.problem.type === "/problems/changed-meanwhile" && (
            <Button variant="outlined" onClick={() => (rideChanged(client, horse), onClose())}>
              Show it as it is now
            </Button>
          )}
          <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap" }}>
            <Button type="submit" variant="contained" disabled={correct.isPending || typed === null}>
              Save
            </Button>
            <Button
              variant="outlined"
              color="error"
              disabled={correct.isPending}
              onClick={() => correct.mutate(true)}
            >
              Take it out
            </Button>
            <Button onClick={onClose}>Cancel</Button>
          </Box>
        </Box>
      </DialogContent>
    </Dialog>
  );
}
