import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { patternToday } from "../api/queries";
import { ink, oxblood, paper, pine } from "../theme/tokens";
import { newId } from "./ids";
import { OneOf } from "./one-of";
import { OpenFile } from "./open-file";
import { BarrelPad } from "./pass-pad";
import { FormTrouble } from "./states";
import { passGaits } from "./words";

const onPaper = { text: ink, line: ink, on: ink, onText: paper };

/** Logs a pass over a set-up: gait, each barrel in a few taps, and times where there are any. */
export function LogPass(props: {
  horse: string;
  setUp: Schemas["SetUpOut"];
  units: Schemas["Units"];
  ride?: string;
  gait?: Schemas["Gait"];
  onLogged?: () => void;
}) {
  const client = useQueryClient();
  const blank = () => props.setUp.set_up.barrels.map((): Schemas["BarrelTold"] => ({}));
  const plan = useQuery(patternToday(props.horse)).data;
  const [id, setId] = useState(newId);
  const [gait, setGait] = useState<Schemas["Gait"]>(props.gait ?? "jog");
  const [told, setTold] = useState(blank);
  const [seconds, setSeconds] = useState("");
  const [behind, setBehind] = useState<number[]>([]);
  const [notes, setNotes] = useState<string[]>([]);
  const [logged, setLogged] = useState(0);
  const time = Number(seconds.replace(",", "."));
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/horses/{horse}/passes/{id}", {
          params: { path: { horse: props.horse, id } },
          body: {
            set_up_id: props.setUp.id,
            ride_id: props.ride ?? null,
            gait,
            told: { barrels: told, behind, seconds: seconds.trim() ? time : null },
          },
        }),
      ),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ["horse", props.horse] });
      void client.invalidateQueries({ queryKey: ["event"] });
      setId(newId());
      setTold(blank());
      setSeconds("");
      setBehind([]);
      setNotes([]);
      setLogged(logged + 1);
      props.onLogged?.();
    },
  });
  const timer = useMutation({
    mutationFn: async (file: File) =>
      ask(api.POST("/api/patterns/timer", { body: { text: await file.text() } })),
    onSuccess: (run) => {
      setBehind(run.splits.slice(0, told.length));
      setSeconds(run.seconds ? run.seconds.toFixed(2) : "");
      setNotes(run.notes);
    },
  });
  const block = plan?.blocks.find((b) => b.gait === gait) ?? plan?.blocks[0];
  return (
    <Box
      component="form"
      noValidate
      aria-label="Log a pass"
      onSubmit={(e) => (e.preventDefault(), save.mutate())}
      sx={{ display: "grid", gap: 2 }}
    >
      <OneOf label="Gait" of={passGaits} picked={gait} onPick={setGait} />
      {props.setUp.set_up.barrels.map((barrel, n) => (
        <BarrelPad
          key={n}
          n={n}
          turn={barrel.turn}
          pocket={block?.pockets[n]?.pocket ?? barrel.pocket}
          why={block?.pockets[n]?.why}
          told={told[n] ?? {}}
          units={props.units}
          colours={onPaper}
          onChange={(one) => setTold(told.map((t, k) => (k === n ? one : t)))}
        />
      ))}
      <Box sx={{ display: "flex", gap: 1.5, alignItems: "center", flexWrap: "wrap" }}>
        <TextField
          label="Seconds"
          value={seconds}
          onChange={(e) => setSeconds(e.target.value)}
          error={seconds.trim() !== "" && !(time > 0)}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
          sx={{ maxWidth: 120 }}
        />
        <OpenFile name="Read a timer’s file" accept=".csv,text/csv" onOpen={(file) => timer.mutate(file)} />
      </Box>
      {notes.map((note) => (
        <Box key={note} role="status" sx={{ color: oxblood }}>
          {note}
        </Box>
      ))}
      <FormTrouble error={save.error ?? timer.error} />
      <Box sx={{ display: "flex", gap: 2, alignItems: "center" }}>
        <Button type="submit" variant="contained" disabled={save.isPending} sx={{ minHeight: 56 }}>
          Log the pass
        </Button>
        {logged > 0 && (
          <Box role="status" sx={{ color: pine, fontWeight: 650 }}>
            {logged === 1 ? "The pass is logged." : `${logged} passes are logged.`}
          </Box>
        )}
      </Box>
    </Box>
  );
}
