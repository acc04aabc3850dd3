import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused } from "../../api/client";
import { horses, people, today } from "../../api/queries";
import { useMe } from "../../parts/me";
import { FormTrouble } from "../../parts/states";
import { useWheres } from "../../parts/where";
import { newId } from "../../parts/ids";

/** Puts a horse on the day. */
export function AddRide({ date, onClose }: { date: string; onClose: () => void }) {
  const me = useMe();
  const client = useQueryClient();
  const all = useQuery(horses());
  const riders = useQuery(people());
  const [id] = useState(() => newId());
  const [form, setForm] = useState({
    horse_id: "",
    rider_id: me.id,
    starts_at: "10:00",
  });
  const wheres = useWheres();
  const [where, setWhere] = useState("");
  const add = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/rides/{id}", {
          params: { path: { id } },
          body: {
            ...form,
            ...wheres.find((w) => w.key === where)?.at,
            starts_at: form.starts_at ? `${form.starts_at}:00` : null,
            date,
            entered: "pen",
            sets: [],
            note: "",
            signs: [],
          },
        }),
      ),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: today.queryKey });
      onClose();
    },
  });
  const refused = add.error instanceof Refused ? add.error : null;
  const pick = (horse_id: string) => {
    const usual = all.data?.items.find((h) => h.id === horse_id)?.usual_rider_id;
    setForm({ ...form, horse_id, rider_id: usual ?? form.rider_id });
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="add-title" fullWidth maxWidth="xs">
      <DialogContent>
        <Typography variant="h2" id="add-title" sx={{ mb: 2 }}>
          Add a ride to today
        </Typography>
        <Box
          component="form"
          noValidate
          onSubmit={(e) => (e.preventDefault(), add.mutate())}
          sx={{ display: "grid", gap: 2 }}
        >
          <TextField
            select
            label="Horse"
            value={form.horse_id}
            onChange={(e) => pick(e.target.value)}
            error={!!refused?.field("horse_id")}
            helperText={refused?.field("horse_id")}
          >
            {(all.data?.items ?? []).map((h) => (
              <MenuItem key={h.id} value={h.id}>
                {h.name}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            label="Rider"
            value={riders.data ? form.rider_id : ""}
            onChange={(e) => setForm({ ...form, rider_id: e.target.value })}
          >
            {(riders.data?.items ?? [])
              .filter((p) => p.role !== "owner")
              .map((p) => (
                <MenuItem key={p.id} value={p.id}>
                  {p.name}
                </MenuItem>
              ))}
          </TextField>
          <TextField
            type="time"
            label="Hour"
            value={form.starts_at}
            onChange={(e) => setForm({ ...form, starts_at: e.target.value })}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <TextField
            select
            label="Place"
            value={where}
            onChange={(e) => setWhere(e.target.value)}
            slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
          >
            <MenuItem value="">where it was ridden last</MenuItem>
            {wheres.map((w) => (
              <MenuItem key={w.key} value={w.key}>
                {w.name}
              </MenuItem>
            ))}
          </TextField>
          {!refused?.problem.errors?.length && <FormTrouble error={add.error} />}
          <Box sx={{ display: "flex", gap: 1.5 }}>
            <Button type="submit" variant="contained" disabled={add.isPending || !form.horse_id}>
              Add
            </Button>
            <Button onClick={onClose}>Cancel</Button>
          </Box>
        </Box>
      </DialogContent>
    </Dialog>
  );
}
