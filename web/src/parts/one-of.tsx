import Box from "@mui/material/Box";
import { ink, paper } from "../theme/tokens";

/** A row of buttons of which one is pressed. Where it is wider than its place, it scrolls by itself. */
export function OneOf<T extends string | number | null>(props: {
  label: string;
  of: readonly (readonly [T, string])[];
  picked: T;
  onPick: (value: T) => void;
}) {
  return (
    <Box
      role="group"
      aria-label={props.label}
      sx={{ display: "flex", maxWidth: "100%", overflowX: "auto", pl: "1.5px" }}
    >
      {props.of.map(([value, name]) => {
        const pressed = value === props.picked;
        return (
          <Box
            key={value}
            component="button"
            type="button"
            aria-pressed={pressed}
            onClick={() => props.onPick(value)}
            sx={{
              font: "inherit",
              fontWeight: 600,
              minHeight: 44,
              px: 1.5,
              ml: "-1.5px",
              flex: "none",
              whiteSpace: "nowrap",
              border: `1.5px solid ${ink}`,
              background: pressed ? ink : "transparent",
              color: pressed ? paper : ink,
              cursor: "pointer",
            }}
          >
            {name}
          </Box>
        );
      })}
    </Box>
  );
}
