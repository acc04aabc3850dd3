import Box from "@mui/material/Box";
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
import { CorrectionActions } from "./correction-actions";

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
          <CorrectionActions
            stale={refused?.problem.type === "/problems/changed-meanwhile"}
            busy={correct.isPending}
            maySave={typed !== null}
            onShowNow={() => (rideChanged(client, horse), onClose())}
            onRemove={() => correct.mutate(true)}
            onCancel={onClose}
          />
        </Box>
      </DialogContent>
    </Dialog>
  );
}
