import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused, type Schemas } from "../../../api/client";
import { capital } from "../../../parts/words";
import { Toggle } from "../../../parts/toggle";
import { FormDialog } from "../../barn/form";

export type MadeDrill = Schemas["DrillOut"] & { name: string };

const needs: [Schemas["DrillNeed"], string][] = [
  ["stiff-left", "Stiff left"],
  ["stiff-right", "Stiff right"],
  ["falls-in", "Falls in"],
  ["anticipates", "Anticipates"],
  ["slow-at-the-bend", "Slow at the change of bend"],
  ["dives-out", "Dives out of the rollback"],
  ["late-behind", "Late behind"],
];

/** What a drill is for, and how long: made in an order that the horse cannot guess. */
export function DrillDialog(props: {
  ground: string;
  horse: { id: string; name: string };
  /** What is picked at first. */
  needs: Schemas["DrillNeed"][];
  seed: number;
  onMade: (drill: MadeDrill) => void;
  onClose: () => void;
}) {
  const [picked, setPicked] = useState(props.needs);
  const [minutes, setMinutes] = useState("6");
  const make = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/figures/drill", {
          body: {
            ground_id: props.ground,
            horse_id: props.horse.id,
            needs: picked,
            minutes: Number(minutes),
            seed: props.seed,
          },
        }),
      ),
    onSuccess: (drill) => props.onMade({ ...drill, name: `Drill for ${props.horse.name}` }),
  });
  const refused = make.error instanceof Refused ? make.error : null;
  const turn = (need: Schemas["DrillNeed"]) =>
    setPicked(picked.includes(need) ? picked.filter((one) => one !== need) : [...picked, need]);
  const elsewhere = refused?.field("horse_id") ?? refused?.field("ground_id");
  return (
    <FormDialog
      title={`A drill for ${props.horse.name}`}
      error={refused?.field("minutes") ? null : make.error}
      busy={make.isPending}
      save="Make it"
      onSave={() => make.mutate()}
      onClose={props.onClose}
    >
      <Typography>What it is for, most first. Nothing picked is a drill of everything it knows.</Typography>
      <Box role="group" aria-label="What it is for" sx={{ display: "flex", gap: "6px", flexWrap: "wrap" }}>
        {needs.map(([need, name]) => (
          <Toggle
            key={need}
            name={picked.includes(need) && picked.length > 1 ? `${picked.indexOf(need) + 1}. ${name}` : name}
            on={picked.includes(need)}
            onPress={() => turn(need)}
            sx={{ minHeight: 48, px: 1.5 }}
          />
        ))}
      </Box>
      <TextField
        label="Minutes"
        value={minutes}
        onChange={(e) => setMinutes(e.target.value)}
        error={!!refused?.field("minutes")}
        helperText={refused?.field("minutes")}
        slotProps={{ htmlInput: { inputMode: "numeric" } }}
        sx={{ maxWidth: 140 }}
      />
      {elsewhere && <Typography role="alert">{capital(elsewhere)}.</Typography>}
    </FormDialog>
  );
}

const moveName: Record<Schemas["DrillMove"], string> = {
  "circle-left": "Circle left",
  "circle-right": "Circle right",
  "bend-left": "Eight, left first",
  "bend-right": "Eight, right first",
  "roll-left": "Rollbacks left",
  "roll-right": "Rollbacks right",
  "stop-and-back": "Stop and back",
  wait: "Stop and wait",
  "lope-left": "Lope circle left",
  "lope-right": "Lope circle right",
  "counter-left": "Counter-lope, left lead",
  "counter-right": "Counter-lope, right lead",
  "change-to-left": "Change to the left",
  "change-to-right": "Change to the right",
};

/** What each part of a drill is for, and how hard its order is to guess. */
export function DrillParts({ drill }: { drill: Schemas["DrillOut"] }) {
  return (
    <Box sx={{ mt: 1.5 }}>
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        {drill.moves} moves
      </Typography>
      {drill.parts.map((part) => (
        <Box key={part.of} sx={{ display: "flex", gap: 1, py: 0.25 }}>
          <Box sx={{ minWidth: 130, fontWeight: 600 }}>
            {part.times} × {moveName[part.of]}
          </Box>
          <span>{part.why}</span>
        </Box>
      ))}
      <Typography sx={{ mt: 0.75 }}>
        The next move is as hard to guess as one of {Math.max(1, 2 ** drill.bits).toFixed(1)} that are equally
        likely, for a horse that knows the last two.
      </Typography>
    </Box>
  );
}
