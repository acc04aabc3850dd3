import Box from "@mui/material/Box";
import Chip from "@mui/material/Chip";
import TextField from "@mui/material/TextField";
import type { Schemas } from "../../api/client";
import { GAITS, type Gait } from "./minutes";

/** Signs of a ride, each on or off. */
export function SignPicker(props: {
  signs: Schemas["CurriculumOut"]["signs"];
  picked: string[];
  onPick: (picked: string[]) => void;
}) {
  const { picked, onPick } = props;
  const toggle = (tag: string) =>
    onPick(picked.includes(tag) ? picked.filter((s) => s !== tag) : [...picked, tag]);
  return (
    <Box role="group" aria-label="Signs" sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
      {props.signs.map((s) => (
        <Chip
          key={s.tag}
          label={s.name}
          aria-pressed={picked.includes(s.tag)}
          onClick={() => toggle(s.tag)}
          color={picked.includes(s.tag) ? (s.soft ? "success" : "error") : "default"}
          variant={picked.includes(s.tag) ? "filled" : "outlined"}
          sx={{ height: 44, fontSize: "1rem" }}
        />
      ))}
    </Box>
  );
}

/** Minutes by gait, as they are typed. */
export function MinuteFields(props: {
  of: (gait: Gait) => string;
  onType: (gait: Gait, text: string) => void;
}) {
  return (
    <Box role="group" aria-label="Minutes by gait" sx={{ display: "flex", gap: 1 }}>
      {GAITS.map((g) => (
        <TextField
          key={g}
          label={g}
          value={props.of(g)}
          onChange={(e) => props.onType(g, e.target.value.replace(/\D/g, "").slice(0, 3))}
          slotProps={{ htmlInput: { inputMode: "numeric" } }}
        />
      ))}
    </Box>
  );
}
