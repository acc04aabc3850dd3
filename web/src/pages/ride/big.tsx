import Box from "@mui/material/Box";
import type { ReactNode } from "react";
import { faces, gloveTarget, type Face } from "../../theme/tokens";

/** A button for gloves. */
export function Big(props: {
  face: Face;
  children: ReactNode;
  onClick: () => void;
  pressed?: boolean;
  label?: string;
  hint?: string;
  stripe?: string;
  disabled?: boolean;
}) {
  const look = faces[props.face];
  return (
    <Box
      component="button"
      type="button"
      disabled={props.disabled}
      aria-label={props.label}
      aria-pressed={props.pressed}
      onClick={(e) => {
        props.onClick();
        e.currentTarget.blur();
      }}
      sx={{
        font: "inherit",
        fontWeight: 650,
        fontSize: "1.02rem",
        lineHeight: 1.1,
        minHeight: gloveTarget,
        minWidth: gloveTarget,
        px: 1,
        whiteSpace: props.hint && props.label ? "nowrap" : "normal",
        cursor: "pointer",
        position: "relative",
        border: `2px solid ${look.line}`,
        borderBottom: props.stripe ? `7px solid ${props.stripe}` : `2px solid ${look.line}`,
        background: props.pressed ? look.text : look.panel,
        color: props.pressed ? look.ground : look.text,
        "&:disabled": { opacity: 0.45, cursor: "default" },
      }}
    >
      {props.children}
      {props.hint && (
        <Box
          component="span"
          aria-hidden="true"
          sx={{ display: { xs: "none", md: "inline" }, ml: 0.75, fontSize: "0.78rem", opacity: 0.7 }}
        >
          {props.hint}
        </Box>
      )}
    </Box>
  );
}
