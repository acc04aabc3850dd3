import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused, type Schemas } from "../../api/client";
import { horseRides } from "../../api/queries";
import { Panel } from "../../parts/panel";
import { FormTrouble } from "../../parts/states";
import { day } from "../../parts/words";
import { pine } from "../../theme/tokens";

type Known = Schemas["SharedRideOut"];
type Move = { minute: string; bridle: string; asked: Schemas["Asker"] | "" };

const askers: [Schemas["Asker"], string][] = [
  ["bears", "Horse bears on it"],
  ["roots", "Horse roots"],
  ["sharp", "Horse is sharp"],
  ["tired", "Horse is tired"],
  ["scared", "Horse is scared or angry"],
  ["rider", "Rider is tired or cross"],
];
const MINUTES = 40;

/** What stands in the form for a ride: as it was noted, else a ride at the share to begin with. */
export function shareDraft(known: Known | undefined, next: number) {
  return {
    minutes: String(known ? Math.round(known.seconds / 60) : MINUTES),
    begins: String(known?.begins ?? next),
    moves: (known?.moves ?? []).map((m): Move => ({
      minute: String(Math.round(m.at / 60)),
      bridle: String(m.bridle),
      asked: m.asked ?? "",
    })),
  };
}

/** Notes the share of a ride: where it began, and each move with the minute and who asked. */
export function ShareForm(props: { horse: string; known: Known[]; next: number }) {
  const { horse, known, next } = props;
  const client = useQueryClient();
  const rides = useQuery(horseRides(horse)).data?.items ?? [];
  const [picked, setPicked] = useState<string | null>(null);
  const ride = picked ?? rides[0]?.id ?? null;
  const kept = known.find((k) => k.ride_id === ride);
  if (!ride) return null;
  return (
    <Panel name="Note a ride">
      <Box sx={{ display: "flex", gap: 2, alignItems: "center", flexWrap: "wrap", mb: 1.5 }}>
        <Typography variant="h2">Note a ride</Typography>
        <TextField
          select
          label="Ride"
          value={ride}
          onChange={(e) => setPicked(e.target.value)}
          sx={{ width: { xs: "100%", sm: 260 } }}
        >
          {rides.map((r) => (
            <MenuItem key={r.id} value={r.id}>
              {day(r.date)}
              {known.some((k) => k.ride_id === r.id) ? ", noted" : ""}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      <Shares
        key={ride}
        ride={ride}
        kept={kept}
        next={next}
        onSaved={() => void client.invalidateQueries({ queryKey: ["horse", horse, "two-rein"] })}
      />
    </Panel>
  );
}

function Shares(props: { ride: string; kept: Known | undefined; next: number; onSaved: () => void }) {
  const { kept } = props;
  const [it, setIt] = useState(() => shareDraft(kept, props.next));
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/rides/{id}/shares", {
          params: { path: { id: props.ride } },
          body: {
            version: kept?.version ?? 0,
            seconds: Math.round(Number(it.minutes) * 60),
            begins: Number(it.begins),
            moves: it.moves.map((m) => ({
              at: Math.round(Number(m.minute) * 60),
              bridle: Number(m.bridle),
              asked: m.asked || null,
            })),
          },
        }),
      ),
    onSuccess: props.onSaved,
    // Someone noted it meanwhile: what is kept now is read.
    onError: props.onSaved,
  });
  const refused = save.error instanceof Refused ? save.error : null;
  const whole = (text: string, most: number) => /^\d+$/.test(text.trim()) && Number(text) <= most;
  const sound =
    whole(it.minutes, 1440) &&
    Number(it.minutes) > 0 &&
    whole(it.begins, 100) &&
    it.moves.every((m) => whole(m.minute, 1440) && whole(m.bridle, 100));
  const move = (n: number, change: Partial<Move>) =>
    setIt({ ...it, moves: it.moves.map((m, k) => (k === n ? { ...m, ...change } : m)) });
  const number = (
    label: string,
    value: string,
    most: number,
    onType: (v: string) => void,
    field?: string,
  ) => (
    <TextField
      label={label}
      value={value}
      onChange={(e) => onType(e.target.value)}
      error={!whole(value, most) || (!!field && !!refused?.field(field))}
      helperText={field && refused?.field(field)}
      slotProps={{ htmlInput: { inputMode: "numeric" } }}
      sx={{ width: 150 }}
    />
  );
  return (
    <Box
      component="form"
      noValidate
      aria-label="The share of the ride"
      onSubmit={(e) => (e.preventDefault(), sound && save.mutate())}
      sx={{ display: "grid", gap: 1.5 }}
    >
      <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap" }}>
        {number("Minutes", it.minutes, 1440, (minutes) => setIt({ ...it, minutes }), "seconds")}
        {number("Began with, %", it.begins, 100, (begins) => setIt({ ...it, begins }), "begins")}
      </Box>
      {it.moves.map((m, n) => (
        <Box
          key={n}
          role="group"
          aria-label={`Move ${n + 1}`}
          sx={{ display: "flex", gap: 1.5, flexWrap: "wrap", alignItems: "start" }}
        >
          {number("After minutes", m.minute, 1440, (minute) => move(n, { minute }), `moves[${n}].at`)}
          {number("To, %", m.bridle, 100, (bridle) => move(n, { bridle }), `moves[${n}].bridle`)}
          <TextField
            select
            label="Who asked"
            value={m.asked}
            onChange={(e) => move(n, { asked: e.target.value as Move["asked"] })}
            sx={{ width: 220 }}
          >
            <MenuItem value="">Nobody</MenuItem>
            {askers.map(([value, name]) => (
              <MenuItem key={value} value={value}>
                {name}
              </MenuItem>
            ))}
          </TextField>
          <Button
            aria-label={`Take move ${n + 1} out`}
            onClick={() => setIt({ ...it, moves: it.moves.filter((_, k) => k !== n) })}
          >
            Take out
          </Button>
        </Box>
      ))}
      <FormTrouble error={refused?.problem.status === 422 ? null : save.error} />
      <Box sx={{ display: "flex", gap: 1.5, alignItems: "center" }}>
        <Button
          variant="outlined"
          onClick={() =>
            setIt({
              ...it,
              moves: [...it.moves, { minute: "", bridle: it.moves.at(-1)?.bridle ?? it.begins, asked: "" }],
            })
          }
        >
          Add a move
        </Button>
        <Button type="submit" variant="contained" disabled={!sound || save.isPending}>
          Save
        </Button>
        {save.isSuccess && (
          <Box role="status" sx={{ color: pine, fontWeight: 650 }}>
            Saved.
          </Box>
        )}
      </Box>
    </Box>
  );
}
