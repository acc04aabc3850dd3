import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { FOOT } from "../../parts/lengths";
import { rule } from "../../theme/tokens";

type Ability = Schemas["HorseAbility"];
const MPH = 0.44704;

/** What the horse can do, to be typed where its passes do not tell it. */
export function AbleFields(props: {
  known: Ability;
  typed: Partial<Ability>;
  units: Schemas["Units"];
  onType: (typed: Partial<Ability>) => void;
}) {
  const metric = props.units === "metric";
  const speed = metric ? 1 / 3.6 : MPH;
  const long = metric ? 1 : FOOT;
  const fields: [keyof Ability, string, number][] = [
    ["top_speed", metric ? "Fastest, km/h" : "Fastest, mph", speed],
    ["start_speed", metric ? "Over the line, km/h" : "Over the line, mph", speed],
    ["stride", metric ? "Stride, m" : "Stride, ft", long],
  ];
  return (
    <Box sx={{ borderTop: `1px solid ${rule}`, pt: 1.5, mt: 1.5 }}>
      <Typography sx={{ fontWeight: 650, mb: 1 }}>The horse</Typography>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
        {fields.map(([key, label, unit]) => (
          <Figure
            key={key}
            label={label}
            value={props.known[key] / unit}
            onType={(value) => props.onType({ ...props.typed, [key]: value * unit })}
          />
        ))}
        {Object.keys(props.typed).length > 0 && <Button onClick={() => props.onType({})}>As known</Button>}
      </Box>
    </Box>
  );
}

function Figure(props: { label: string; value: number; onType: (value: number) => void }) {
  const [text, setText] = useState<string | null>(null);
  const value = Number((text ?? "").replace(",", "."));
  return (
    <TextField
      label={props.label}
      value={text ?? props.value.toFixed(1)}
      error={text !== null && !(value > 0)}
      onChange={(e) => {
        setText(e.target.value);
        const typed = Number(e.target.value.replace(",", "."));
        if (typed > 0) props.onType(typed);
      }}
      onBlur={() => setText(null)}
      slotProps={{ htmlInput: { inputMode: "decimal" } }}
    />
  );
}
