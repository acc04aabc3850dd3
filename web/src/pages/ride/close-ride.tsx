import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, ask, Unreachable, type Schemas } from "../../api/client";
import { ride as rideQuery, rideChanged, summary } from "../../api/queries";
import { flush, waitingFor } from "../../offline/outbox";
import { callWord } from "../../parts/mark";
import { FormTrouble } from "../../parts/states";
import { sage } from "../../theme/tokens";
import { minutes, type Gait } from "./minutes";
import { MinuteFields, SignPicker } from "./ride-facts";

/** What someone else wrote on the ride since it was looked at, where closing would write over it. */
function wroteMeanwhile(
  seen: Schemas["RideDetail"],
  now: Schemas["RideDetail"],
  note: string,
  signs: string[],
  book: Schemas["CurriculumOut"],
): string | null {
  const told: string[] = [];
  if (now.note !== seen.note && now.note !== note) told.push(`the note “${now.note}”`);
  const lost = now.signs.filter((s) => !seen.signs.includes(s) && !signs.includes(s));
  if (lost.length > 0)
    told.push(
      `the signs ${lost.map((tag) => book.signs.find((s) => s.tag === tag)?.name ?? tag).join(", ")}`,
    );
  return told.length > 0
    ? `Meanwhile someone else wrote ${told.join(" and ")}. Nothing was written over: take it in, or close again to keep yours.`
    : null;
}

/** What the ride came to: the best answer, the load, and the calls as they are now. */
function Came({ came }: { came: Schemas["SummaryOut"] }) {
  return (
    <Box sx={{ borderLeft: `6px solid ${sage}`, pl: 1.5 }}>
      {came.best && (
        <div>
          <b>Best of the day</b> {came.best.name.toLowerCase()}
          {came.best.side !== "both" && ` on the ${came.best.side}`}: {came.best.words}.
        </div>
      )}
      {came.calls.slice(0, 3).map((c) => (
        <div key={c.step}>
          <b>{c.call ? callWord(c.call) : "No call yet"}</b> {c.name.toLowerCase()}. {c.why}.
        </div>
      ))}
      <div>
        Load {came.load}, {came.week_load} over seven days
        {came.class && `, ${came.class.replace("-", " ")} work`}.
      </div>
    </Box>
  );
}

/** Signs, the sentence that tomorrow starts from, and the end of the ride. */
export function CloseRide(props: {
  ride: Schemas["RideDetail"];
  book: Schemas["CurriculumOut"];
  reps: number;
  onLeave: () => void;
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [note, setNote] = useState(props.ride.note);
  const [signs, setSigns] = useState<string[]>(props.ride.signs);
  const { id, horse_id } = props.ride;
  // What stood there when it was last looked at: someone else may write while this is open.
  const [seen, setSeen] = useState(props.ride);
  const came = useQuery({ ...summary(id), staleTime: 0 }).data;
  const [typed, setTyped] = useState<Partial<Record<Gait, string>>>({});
  const minutesOf = (gait: Gait) => typed[gait] ?? (came ? String(came.minutes[gait]) : "");
  const close = useMutation({
    mutationFn: async () => {
      await flush();
      const left = waitingFor(id).length;
      if (left > 0)
        throw new Unreachable(
          `${left} reps are on this device and not sent yet. They are safe; close when they are through.`,
        );
      const params = { params: { path: { id } } };
      const now = await ask(api.GET("/api/rides/{id}", params));
      const meanwhile = wroteMeanwhile(seen, now, note, signs, props.book);
      if (meanwhile) {
        setSeen(now);
        throw new Error(meanwhile);
      }
      const body = {
        version: now.version,
        rider_id: now.rider_id,
        starts_at: now.starts_at,
        place: now.place,
        ground_id: now.ground_id,
        state: "closed" as const,
        note,
        signs,
        minutes: came ? minutes(minutesOf) : null,
      };
      return ask(api.PATCH("/api/rides/{id}", { ...params, body }));
    },
    onSuccess: (closed) => {
      client.setQueryData(rideQuery(id).queryKey, closed);
      rideChanged(client, horse_id);
      void navigate(`/horses/${horse_id}`);
    },
  });
  return (
    <Dialog open onClose={props.onLeave} aria-labelledby="close-title" fullWidth maxWidth="sm">
      <DialogContent>
        <Box
          component="form"
          onSubmit={(e) => (e.preventDefault(), close.mutate())}
          sx={{ display: "grid", gap: 2 }}
        >
          <Typography variant="h2" id="close-title">
            Close on {props.ride.horse_name}, {props.reps} reps
          </Typography>
          {came && <Came came={came} />}
          <TextField
            autoFocus
            multiline
            minRows={2}
            label="Note for tomorrow"
            value={note}
            onChange={(e) => setNote(e.target.value)}
            helperText={`${note.length} of 500`}
            error={note.length > 500}
          />
          <SignPicker signs={props.book.signs} picked={signs} onPick={setSigns} />
          <MinuteFields of={minutesOf} onType={(g, text) => setTyped({ ...typed, [g]: text })} />
          <FormTrouble error={close.error} />
          <Box sx={{ display: "flex", gap: 1.5 }}>
            <Button type="submit" variant="contained" size="large" disabled={close.isPending}>
              Close the ride
            </Button>
            <Button onClick={props.onLeave}>Ride on</Button>
          </Box>
        </Box>
      </DialogContent>
    </Dialog>
  );
}
