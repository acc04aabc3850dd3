import Box from "@mui/material/Box";
import type { ReactNode } from "react";
import type { Count } from "../../parts/counts";
import type { Side } from "../../parts/words";
import { faces, slab, white, type Face } from "../../theme/tokens";

/** What the controls of every measure need. */
export type ControlProps = {
  side: Side;
  face: Face;
  keyed: boolean;
  place: string;
  say: (count: Count) => void;
};

/** The touch that comes most often: as large as there is room, in the colour of its side. */
export function CountPad(props: {
  side: Side;
  face: Face;
  hint: string;
  /** How far it is. */
  shows?: string;
  onClick: () => void;
  children: ReactNode;
}) {
  return (
    <Box
      component="button"
      type="button"
      onClick={(e) => {
        props.onClick();
        e.currentTarget.blur();
      }}
      sx={{
        font: "inherit",
        fontWeight: 650,
        fontSize: { xs: "1.15rem", sm: "1.4rem" },
        lineHeight: 1.15,
        flex: 1,
        minHeight: 84,
        px: 1,
        border: 0,
        color: white,
        background: faces[props.face][props.side],
        cursor: "pointer",
        touchAction: "manipulation",
      }}
    >
      {props.shows && (
        <Box
          component="output"
          sx={{
            display: "block",
            fontFamily: slab,
            fontSize: { xs: "1.4rem", sm: "1.8rem" },
            fontWeight: 700,
          }}
        >
          {props.shows}
        </Box>
      )}
      {props.children}
      <Box
        component="span"
        aria-hidden="true"
        sx={{ display: { xs: "none", md: "inline" }, ml: 1, fontSize: "1rem", opacity: 0.8 }}
      >
        {props.hint}
      </Box>
    </Box>
  );
}

/** The ends of a count, side by side where there is room. */
export function Ends({ children }: { children: ReactNode }) {
  return (
    <Box
      sx={{
        display: "grid",
        gap: "6px",
        gridTemplateColumns: { xs: "1fr", md: "repeat(auto-fit, minmax(150px, 1fr))" },
      }}
    >
      {children}
    </Box>
  );
}
