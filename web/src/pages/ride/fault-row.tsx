import Box from "@mui/material/Box";
import type { Schemas } from "../../api/client";
import type { Face } from "../../theme/tokens";
import { Big } from "./big";

/** A list with a fault put in, or taken out where it was in it. */
export const toggled = (faults: string[], tag: string) =>
  faults.includes(tag) ? faults.filter((t) => t !== tag) : [...faults, tag];

/** The faults that can be tapped for an ask. */
export function FaultRow(props: {
  tags: string[];
  all: Schemas["FaultOut"][];
  face: Face;
  on: string[];
  onToggle: (tag: string) => void;
}) {
  const known = props.tags.map((tag) => props.all.find((f) => f.tag === tag)).filter((f) => f !== undefined);
  return (
    <Box
      role="group"
      aria-label="Faults"
      sx={{
        display: "flex",
        gap: "6px",
        flexWrap: { xs: "nowrap", sm: "wrap" },
        overflowX: "auto",
        scrollbarWidth: "none",
      }}
    >
      {known.map((f) => (
        <Box key={f.tag} sx={{ flex: "none" }}>
          <Big face={props.face} pressed={props.on.includes(f.tag)} onClick={() => props.onToggle(f.tag)}>
            {f.name}
          </Big>
        </Box>
      ))}
    </Box>
  );
}
