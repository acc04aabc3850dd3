import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { bind, FormDialog, Pick } from "../barn/form";
import { day as dayWords } from "../../parts/words";
import TextField from "@mui/material/TextField";
import type { Week } from "./use-week";
import { newId } from "../../parts/ids";

/** Someone or a horse is off: who, on which day, and why. */
export function AwayForm({ week, onDone, onClose }: { week: Week; onDone: () => void; onClose: () => void }) {
  const [id] = useState(() => newId());
  const dateOf = (n: number) =>
    new Date(Date.parse(`${week.start}T00:00:00Z`) + n * 86_400_000).toISOString().slice(0, 10);
  const open = [0, 1, 2, 3, 4, 5, 6].filter((n) => n >= week.first_open).map(dateOf);
  const [form, setForm] = useState({
    who: "",
    day: open[0] ?? week.start,
    from: "00:00",
    to: "24:00",
    why: "",
  });
  const save = useMutation({
    mutationFn: () => {
      const [kind, who] = form.who.split("/");
      return ask(
        api.PUT("/api/away/{id}", {
          params: { path: { id } },
          body: {
            person_id: kind === "rider" ? who : null,
            horse_id: kind === "horse" ? who : null,
            day: form.day,
            from: form.from,
            to: form.to,
            why: form.why,
          },
        }),
      );
    },
    onSuccess: onDone,
  });
  const field = bind(form, setForm, save.error);
  const who: [string, string][] = [
    ...week.riders.map((r): [string, string] => [`rider/${r.id}`, r.name]),
    ...week.horses.map((h): [string, string] => [`horse/${h.id}`, h.name]),
  ];
  return (
    <FormDialog
      title="Someone is off"
      error={save.error}
      busy={save.isPending}
      onSave={() => save.mutate()}
      onClose={onClose}
    >
      <Pick {...field("who", "Rider or horse")} options={who} none="Pick one" />
      <Pick {...field("day", "Day")} options={open.map((d): [string, string] => [d, dayWords(d)])} />
      <TextField {...field("from", "From")} />
      <TextField {...field("to", "To (24:00 for the rest of the day)")} />
      <TextField {...field("why", "Why")} placeholder="ill, lame, farrier, show" />
    </FormDialog>
  );
}
