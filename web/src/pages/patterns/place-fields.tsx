import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { onTape, typedLength } from "../../parts/lengths";
import { rule } from "../../theme/tokens";
import { handleName, placeOf, withBarrel, type Handle, type SetUp } from "./draft";

/** Where the picked marker stands, to be typed; and to which hand a barrel is turned. */
export function PlaceFields(props: {
  setUp: SetUp;
  what: Handle;
  units: Schemas["Units"];
  onMove: (to: Schemas["Point"]) => void;
  onTurn: (to: SetUp) => void;
}) {
  const { setUp, what, units } = props;
  const at = placeOf(setUp, what);
  const [typed, setTyped] = useState<{ x?: string; y?: string }>({});
  if (!at) return null;
  const barrel = what === "line" ? null : setUp.barrels[what];
  const field = (key: "x" | "y", label: string) => (
    <TextField
      label={label}
      value={typed[key] ?? onTape(units, at[key])}
      error={typed[key] !== undefined && typedLength(units, typed[key]) === null}
      onChange={(e) => setTyped({ ...typed, [key]: e.target.value })}
      onBlur={() => {
        const metres = typed[key] === undefined ? null : typedLength(units, typed[key]);
        if (metres !== null) props.onMove({ ...at, [key]: metres });
        setTyped({});
      }}
      onKeyDown={(e) => {
        if (e.key === "Enter") (e.target as HTMLElement).blur();
      }}
    />
  );
  return (
    <Box sx={{ pb: 1.5, mb: 1.5, borderBottom: `1px solid ${rule}` }}>
      <Typography sx={{ fontWeight: 650, mb: 1 }}>{handleName(what)}</Typography>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
        {field("x", "From the left fence")}
        {field("y", "From the front fence")}
        {barrel && typeof what === "number" && (
          <Button
            variant="outlined"
            sx={{ flex: "none" }}
            onClick={() =>
              props.onTurn(withBarrel(setUp, what, { turn: barrel.turn === "left" ? "right" : "left" }))
            }
          >
            Turn {barrel.turn === "left" ? "right" : "left"}
          </Button>
        )}
      </Box>
    </Box>
  );
}
