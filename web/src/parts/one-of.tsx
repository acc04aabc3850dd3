import Box from "@mui/material/Box";
import { Toggle } from "./toggle";

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
      {props.of.map(([value, name]) => (
        <Toggle
          key={value}
          name={name}
          on={value === props.picked}
          onPress={() => props.onPick(value)}
          sx={{ minHeight: 44, px: 1.5, ml: "-1.5px", flex: "none", whiteSpace: "nowrap" }}
        />
      ))}
    </Box>
  );
}
