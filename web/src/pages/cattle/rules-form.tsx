import TextField from "@mui/material/TextField";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused, type Schemas } from "../../api/client";
import { FormDialog } from "../barn/form";

type Rules = Schemas["HerdRules"];
const fields: [keyof Rules, string][] = [
  ["day", "Works of a cow in a day"],
  ["week", "Works of a cow in a week"],
  ["go_minutes", "Minutes of a go"],
  ["bring", "Cows brought up at most"],
  ["rest_half_days", "Days of rest until half the wear is gone"],
  ["wear_half_minutes", "Minutes of work until half the honour is gone"],
];

/** The limits of the herd, and how fast it wears and rests. */
export function RulesForm(props: { of: Rules; version: number; onClose: () => void }) {
  const client = useQueryClient();
  const [typed, setTyped] = useState(
    () =>
      Object.fromEntries(fields.map(([key]) => [key, String(props.of[key])])) as Record<keyof Rules, string>,
  );
  const save = useMutation({
    mutationFn: () => {
      const rules = Object.fromEntries(fields.map(([key]) => [key, Number(typed[key].replace(",", "."))]));
      return ask(
        api.PUT("/api/cattle-rules", { body: { version: props.version, rules: rules as unknown as Rules } }),
      );
    },
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ["cattle"] });
      props.onClose();
    },
  });
  const refused = save.error instanceof Refused ? save.error : null;
  return (
    <FormDialog
      title="Limits of the herd"
      error={save.error}
      busy={save.isPending}
      onSave={() => save.mutate()}
      onClose={props.onClose}
    >
      {fields.map(([key, name]) => (
        <TextField
          key={key}
          label={name}
          value={typed[key]}
          onChange={(e) => setTyped({ ...typed, [key]: e.target.value })}
          error={!!refused?.field(`rules.${key}`)}
          helperText={refused?.field(`rules.${key}`)}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
        />
      ))}
    </FormDialog>
  );
}
