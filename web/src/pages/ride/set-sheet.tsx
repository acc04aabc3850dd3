import Box from "@mui/material/Box";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import Typography from "@mui/material/Typography";
import { useState, type ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { sideName, type Side, type Weight } from "../../parts/words";
import { faces, type Face } from "../../theme/tokens";
import { Big } from "./big";
import { FaultRow, toggled } from "./fault-row";
import type { TappedSet } from "./tapped-set";

/** Asks in a set, as far as one remembers them. */
const ASKS = Array.from({ length: 12 }, (_, n) => n + 1);
const SECONDS = [0.5, 1, 1.5, 2, 3, 5];

/** A set from memory, in the saddle: how many of how many, the weight, and the side, which logs it. Seconds stay as they were. */
export function SetSheet(props: {
  step: Schemas["StepOut"];
  rung: Schemas["RungOut"];
  faults: Schemas["FaultOut"][];
  weights: Schemas["WeightOut"][];
  /** The weight and the seconds of the set that was logged like this before. */
  last: Pick<TappedSet, "weight" | "seconds">;
  face: Face;
  onLog: (set: TappedSet) => void;
  onClose: () => void;
}) {
  const { face, step, rung, weights } = props;
  const look = faces[face];
  const [asks, setAsks] = useState(8);
  const [gave, setGave] = useState<number | null>(null);
  const [weight, setWeight] = useState<Weight>(props.last.weight);
  const [seconds, setSeconds] = useState<number | null>(props.last.seconds);
  const [faults, setFaults] = useState<string[]>([]);
  const log = (side: Side) =>
    gave !== null && props.onLog({ side, gave, tried: 0, none: asks - gave, weight, seconds, faults });
  return (
    <Dialog
      open
      fullWidth
      maxWidth="sm"
      onClose={props.onClose}
      aria-labelledby="set-title"
      slotProps={{
        paper: { sx: { background: look.ground, color: look.text, m: 1, width: "calc(100% - 16px)" } },
      }}
    >
      <DialogContent sx={{ p: 1.25, display: "grid", gap: 1 }}>
        <Typography variant="h2" id="set-title" sx={{ color: look.text }}>
          A set of {step.name.toLowerCase()}
        </Typography>
        <Row name="Asks" columns={6}>
          {ASKS.map((n) => (
            <Big
              key={n}
              face={face}
              pressed={n === asks}
              label={`${n} asks`}
              onClick={() => {
                setAsks(n);
                setGave((g) => (g === null ? null : Math.min(g, n)));
              }}
            >
              {n}
            </Big>
          ))}
        </Row>
        <Row name={`Gave, of ${asks}`} columns={7}>
          {[0, ...ASKS.slice(0, asks)].map((n) => (
            <Big key={n} face={face} pressed={n === gave} label={`Gave ${n}`} onClick={() => setGave(n)}>
              {n}
            </Big>
          ))}
        </Row>
        <Row name="At" columns={4}>
          {weights.map((w) => (
            <Big key={w.weight} face={face} pressed={w.weight === weight} onClick={() => setWeight(w.weight)}>
              {w.weight}
            </Big>
          ))}
        </Row>
        <Row name="Seconds" columns={7}>
          <Big face={face} pressed={seconds === null} onClick={() => setSeconds(null)} label="Not timed">
            –
          </Big>
          {SECONDS.map((s) => (
            <Big
              key={s}
              face={face}
              pressed={s === seconds}
              label={`${s} seconds`}
              onClick={() => setSeconds(s)}
            >
              {s}
            </Big>
          ))}
        </Row>
        <FaultRow
          tags={rung.faults}
          all={props.faults}
          face={face}
          on={faults}
          onToggle={(tag) => setFaults(toggled(faults, tag))}
        />
        <Box
          sx={{ display: "grid", gap: "6px", gridTemplateColumns: `1fr repeat(${step.sides.length}, 1.6fr)` }}
        >
          <Big face={face} onClick={props.onClose}>
            Cancel
          </Big>
          {step.sides.map((side) => (
            <Big key={side} face={face} disabled={gave === null} onClick={() => log(side)}>
              {side === "both" ? "Log the set" : `Log ${sideName[side].toLowerCase()}`}
            </Big>
          ))}
        </Box>
      </DialogContent>
    </Dialog>
  );
}

function Row({ name, columns, children }: { name: string; columns: number; children: ReactNode }) {
  return (
    <Box role="group" aria-label={name}>
      <Box sx={{ fontSize: "0.95rem", mb: 0.25 }}>{name}</Box>
      <Box
        sx={{
          display: "grid",
          gap: "6px",
          gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
          "& button": { minWidth: 0, minHeight: 48 },
        }}
      >
        {children}
      </Box>
    </Box>
  );
}
