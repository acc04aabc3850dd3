import TextField from "@mui/material/TextField";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { useMe } from "../../parts/me";
import { postureName } from "../../parts/words";
import { bind, FormDialog, Pick } from "./form";

/** Changes the barn's settings. */
export function BarnForm({ onClose }: { onClose: () => void }) {
  const { barn } = useMe();
  const client = useQueryClient();
  const [form, setForm] = useState({
    name: barn.name,
    posture: barn.posture as string,
    units: barn.units as string,
    time_zone: barn.time_zone,
  });
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/barn", {
          body: {
            ...form,
            version: barn.version,
            posture: form.posture as Schemas["Posture"],
            units: form.units as Schemas["Units"],
          },
        }),
      ),
    onSuccess: () => {
      void client.invalidateQueries();
      onClose();
    },
  });
  const field = bind(form, setForm, save.error);
  return (
    <FormDialog
      title="Change the barn"
      error={save.error}
      busy={save.isPending}
      onSave={() => save.mutate()}
      onClose={onClose}
    >
      <TextField {...field("name", "Name")} autoFocus />
      <Pick
        {...field("posture", "Posture: how sure before a horse moves on")}
        options={Object.entries(postureName)}
      />
      <Pick
        {...field("units", "Units")}
        options={[
          ["imperial", "Feet, pounds, °F"],
          ["metric", "Metres, kilograms, °C"],
        ]}
      />
      <TextField {...field("time_zone", "Time zone")} />
    </FormDialog>
  );
}
