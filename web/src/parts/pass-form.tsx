import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { api, ask, type Schemas } from "../api/client";
import { patternToday } from "../api/queries";
import { oxblood } from "../theme/tokens";
import { OneOf } from "./one-of";
import { OpenFile } from "./open-file";
import { BarrelPad } from "./pass-pad";
import { FormTrouble } from "./states";
import { passGaits } from "./words";

/** What a pass is in the form: gait, barrels, and times where there are any. */
export type PassDraft = {
  gait: Schemas["Gait"];
  barrels: Schemas["BarrelTold"][];
  behind: (number | null)[];
  seconds: number | null;
  note: string;
};

/** The times that the server takes, seconds. */
const [LEAST, MOST] = [0.5, 600];

/** What is wrong with the times, if anything. */
export function wrongTimes(behind: (number | null)[], typed: string): string | null {
  const seconds = typed.trim() === "" ? null : Number(typed.replace(",", "."));
  if (seconds !== null && !(seconds >= LEAST && seconds <= MOST)) return `${LEAST} to ${MOST} seconds`;
  const last = behind.reduce<number>((most, t) => Math.max(most, t ?? 0), 0);
  return seconds !== null && seconds <= last ? "Less than the time behind the last barrel" : null;
}

/** A pass over a set-up, each barrel in a few taps. */
export function PassForm(props: {
  name: string;
  horse: string;
  setUp: Schemas["SetUp"];
  units: Schemas["Units"];
  begin: PassDraft;
  action: string;
  busy?: boolean;
  error?: Error | null;
  onSubmit: (pass: PassDraft) => void;
  /** Beside the button. */
  children?: ReactNode;
}) {
  const { begin } = props;
  const plan = useQuery(patternToday(props.horse)).data;
  const [gait, setGait] = useState(begin.gait);
  const [barrels, setBarrels] = useState(begin.barrels);
  const [typed, setTyped] = useState(begin.seconds?.toFixed(2) ?? "");
  const [behind, setBehind] = useState(begin.behind);
  const [notes, setNotes] = useState<string[]>([]);
  const timer = useMutation({
    mutationFn: async (file: File) =>
      ask(api.POST("/api/patterns/timer", { body: { text: await file.text() } })),
    onSuccess: (run) => {
      setBehind(run.splits.slice(0, barrels.length));
      setTyped(run.seconds ? run.seconds.toFixed(2) : "");
      setNotes(run.notes);
    },
  });
  const block = plan?.blocks.find((b) => b.gait === gait) ?? plan?.blocks[0];
  const wrong = wrongTimes(behind, typed);
  const submit = () => {
    if (wrong) return;
    const seconds = typed.trim() === "" ? null : Number(typed.replace(",", "."));
    props.onSubmit({ gait, barrels, behind, seconds, note: begin.note });
  };
  return (
    <Box
      component="form"
      noValidate
      aria-label={props.name}
      onSubmit={(e) => (e.preventDefault(), submit())}
      sx={{ display: "grid", gap: 2 }}
    >
      <OneOf label="Gait" of={passGaits} picked={gait} onPick={setGait} />
      {props.setUp.barrels.map((barrel, n) => (
        <BarrelPad
          key={n}
          n={n}
          turn={barrel.turn}
          pocket={block?.pockets[n]?.pocket ?? barrel.pocket}
          why={block?.pockets[n]?.why}
          told={barrels[n] ?? {}}
          units={props.units}
          onChange={(one) => setBarrels(barrels.map((t, k) => (k === n ? one : t)))}
        />
      ))}
      <Box sx={{ display: "flex", gap: 1.5, alignItems: "start", flexWrap: "wrap" }}>
        <TextField
          label="Seconds"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          error={wrong !== null}
          helperText={wrong}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
          sx={{ width: 150 }}
        />
        <OpenFile name="Read a timer’s file" accept=".csv,text/csv" onOpen={(file) => timer.mutate(file)} />
      </Box>
      {notes.map((note) => (
        <Box key={note} role="status" sx={{ color: oxblood }}>
          {note}
        </Box>
      ))}
      <FormTrouble error={props.error ?? timer.error} />
      <Box sx={{ display: "flex", gap: 2, alignItems: "center" }}>
        <Button
          type="submit"
          variant="contained"
          disabled={props.busy || wrong !== null}
          sx={{ minHeight: 56 }}
        >
          {props.action}
        </Button>
        {props.children}
      </Box>
    </Box>
  );
}
