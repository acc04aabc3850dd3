import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { numbers } from "../../parts/numbers";
import { curriculumChanged } from "../../api/queries";
import { bind, FormDialog, Pick } from "../barn/form";
import { newId } from "../../parts/ids";

/** Another standard for a rung from today on; the past is judged by what held then. */
export function StandardForm(props: {
  rung: Schemas["RungOut"];
  book: Schemas["CurriculumOut"];
  horse: string | null;
  onClose: () => void;
}) {
  const { rung, book, horse, onClose } = props;
  const client = useQueryClient();
  const [id] = useState(() => newId());
  const s = rung.standard;
  const [form, setForm] = useState({
    share: String(Math.round(s.share * 100)),
    weight: s.weight as string,
    seconds: String(s.seconds),
    days: String(s.days),
  });
  const save = useMutation({
    mutationFn: async () => {
      const { share, seconds, days } = numbers({
        share: form.share,
        seconds: form.seconds,
        days: form.days,
      });
      const standard = { share: share ?? 0, weight: form.weight, seconds: seconds ?? 0, days: days ?? 0 };
      const change = { kind: "standard", rung: rung.id, standard };
      return ask(
        api.PUT("/api/curriculum/changes/{id}", {
          params: { path: { id } },
          body: { horse_id: horse, change },
        }),
      );
    },
    onSuccess: () => {
      curriculumChanged(client);
      onClose();
    },
  });
  const field = bind(form, setForm, save.error);
  const weights = book.weights.map((w): [string, string] => [w.weight, w.phrase]);
  return (
    <FormDialog
      title={`Standard of ${rung.id} ${rung.name}`}
      error={save.error}
      whole
      busy={save.isPending}
      onSave={() => save.mutate()}
      onClose={onClose}
    >
      <Typography>
        Holds from today{horse ? " for this horse" : " for the whole barn"}. What was logged before is judged
        by what held then.
      </Typography>
      <TextField {...field("share", "Percent of reps")} slotProps={{ htmlInput: { inputMode: "numeric" } }} />
      <Pick {...field("weight", "Heaviest weight in the hand")} options={weights} />
      <TextField
        {...field("seconds", "Longest time, in seconds")}
        slotProps={{ htmlInput: { inputMode: "decimal" } }}
      />
      <TextField
        {...field("days", "Fewest separate days")}
        slotProps={{ htmlInput: { inputMode: "numeric" } }}
      />
    </FormDialog>
  );
}
