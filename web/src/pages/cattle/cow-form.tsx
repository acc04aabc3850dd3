import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { healthName, mannerName } from "../../parts/cattle-words";
import { newId } from "../../parts/ids";
import { useMe } from "../../parts/me";
import { bind, FormDialog, Pick } from "../barn/form";

/** Adds a cow, or changes what is known of it. One that was sold or died leaves the herd; its works stay in the log. */
export function CowForm({ cow, onClose }: { cow: Schemas["CowOut"] | null; onClose: () => void }) {
  const client = useQueryClient();
  const { today } = useMe();
  const [id] = useState(() => cow?.id ?? newId());
  const [form, setForm] = useState({
    tag: cow?.tag ?? "",
    looks: cow?.looks ?? "",
    manner: cow?.manner ?? "honest",
    health: cow?.health ?? "well",
    source: cow?.source ?? "",
    came_on: cow?.came_on ?? today,
    note: cow?.note ?? "",
  });
  const save = useMutation({
    mutationFn: (left_on: string | null) =>
      ask(
        api.PUT("/api/cattle/{id}", {
          params: { path: { id } },
          body: {
            ...form,
            version: cow?.version ?? 0,
            manner: form.manner as Schemas["Manner"],
            health: form.health as Schemas["CowHealth"],
            left_on,
          },
        }),
      ),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ["cattle"] });
      onClose();
    },
  });
  const field = bind(form, setForm, save.error);
  return (
    <FormDialog
      title={cow ? `Cow ${cow.tag}` : "Add a cow"}
      error={save.error}
      busy={save.isPending}
      onSave={() => save.mutate(null)}
      onClose={onClose}
      more={
        cow && (
          <Button variant="outlined" onClick={() => save.mutate(today)}>
            Left today
          </Button>
        )
      }
    >
      <TextField {...field("tag", "Tag")} autoFocus />
      <TextField {...field("looks", "Looks")} />
      <Pick {...field("manner", "How it behaves")} options={Object.entries(mannerName)} />
      <Pick {...field("health", "Today it is")} options={Object.entries(healthName)} />
      <TextField {...field("source", "Where it comes from")} />
      <TextField
        {...field("came_on", "Came on")}
        type="date"
        slotProps={{ inputLabel: { shrink: true }, htmlInput: { max: today } }}
      />
      <TextField {...field("note", "Note")} multiline minRows={2} />
    </FormDialog>
  );
}
