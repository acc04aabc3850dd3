import Box from "@mui/material/Box";
import type { SystemStyleObject } from "@mui/system";
import { ink, paper } from "../theme/tokens";

export type ToggleColours = { text: string; line: string; on: string; onText: string };
export const onPaper: ToggleColours = { text: ink, line: ink, on: ink, onText: paper };

/** A button that is pressed or not. */
export function Toggle(props: {
  name: string;
  on: boolean;
  /** What it is called where its name alone does not tell. */
  label?: string;
  colours?: ToggleColours;
  onPress: () => void;
  sx?: SystemStyleObject;
}) {
  const { on, colours = onPaper } = props;
  return (
    <Box
      component="button"
      type="button"
      aria-pressed={on}
      aria-label={props.label}
      onClick={props.onPress}
      sx={{
        font: "inherit",
        fontWeight: 650,
        border: `1.5px solid ${colours.line}`,
        background: on ? colours.on : "transparent",
        color: on ? colours.onText : colours.text,
        cursor: "pointer",
        ...props.sx,
      }}
    >
      {props.name}
    </Box>
  );
}
