import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused, type Schemas } from "../../api/client";
import { tackWall } from "../../api/queries";
import { useMe } from "../../parts/me";
import { OneOf } from "../../parts/one-of";
import { FormTrouble } from "../../parts/states";
import { inkSoft } from "../../theme/tokens";
import { begin, fieldsOf, measuresOf, type Typed } from "./measures";
import { Tilt } from "./tilt";

const byWhat = [
  ["tape", "With a tape"],
  ["angle", "By the angle"],
] as const;

/** What a piece measures, typed off a rule; the height of the chin groove by a tape or by the angle at which the strap came snug. */
export function MeasuresForm(props: { piece: Schemas["PieceOut"]; onClose: () => void }) {
  const { piece } = props;
  const { units } = useMe().barn;
  const client = useQueryClient();
  const [typed, setTyped] = useState<Typed>(() => begin(piece, units));
  const measures = measuresOf(piece.mouthpiece, typed, units);
  const save = useMutation({
    mutationFn: (measures: Schemas["Measures"]) =>
      ask(
        api.PUT("/api/gear/{id}/measures", {
          params: { path: { id: piece.id } },
          body: { version: piece.measured?.version ?? 0, measures },
        }),
      ),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: tackWall.queryKey });
      props.onClose();
    },
    onError: () => void client.invalidateQueries({ queryKey: tackWall.queryKey }),
  });
  const refused = save.error instanceof Refused ? save.error : null;
  const set = (key: string, value: string) => setTyped({ ...typed, [key]: value });
  const unit = units === "metric" ? "mm" : "in";
  return (
    <Dialog open onClose={props.onClose} aria-labelledby="measures-title" fullWidth maxWidth="sm">
      <DialogContent>
        <Box
          component="form"
          noValidate
          onSubmit={(e) => (e.preventDefault(), measures && save.mutate(measures))}
          sx={{ display: "grid", gap: 1.75 }}
        >
          <Typography variant="h2" id="measures-title">
            {piece.name} on {piece.horse}
          </Typography>
          <Typography sx={{ color: inkSoft }}>
            {piece.mouthpiece === "leverage"
              ? "On the horse, bit at rest. An eighth of an inch of strap is several degrees: measure, do not guess."
              : "Off the horse, with a rule."}
          </Typography>
          {piece.mouthpiece === "leverage" && (
            <OneOf
              label="How the chin was measured"
              of={byWhat}
              picked={typed["chin.by"] === "angle" ? "angle" : "tape"}
              onPick={(by) => set("chin.by", by)}
            />
          )}
          <Box sx={{ display: "grid", gap: 1.75, gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" } }}>
            {fieldsOf(piece.mouthpiece, typed).map((f) => (
              <TextField
                key={f.key}
                label={`${f.name}, ${f.degrees ? "degrees" : unit}`}
                value={typed[f.key] ?? ""}
                onChange={(e) => set(f.key, e.target.value)}
                error={!!refused?.field(`measures.${f.key}`)}
                helperText={refused?.field(`measures.${f.key}`) ?? f.help}
              />
            ))}
          </Box>
          {typed["chin.by"] === "angle" && <Tilt onMeasured={(angle) => set("chin.tight", String(angle))} />}
          {(!refused || refused.problem.status !== 422) && <FormTrouble error={save.error} />}
          <Box sx={{ display: "flex", gap: 1.5 }}>
            <Button type="submit" variant="contained" disabled={!measures || save.isPending}>
              Save
            </Button>
            <Button onClick={props.onClose}>Cancel</Button>
          </Box>
        </Box>
      </DialogContent>
    </Dialog>
  );
}
