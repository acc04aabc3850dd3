import type { faces } from "../../theme/tokens";

/** The parts of Ride on the screen; on a phone that lies on its side, in two columns. Pads of a mode may take more room than there is. */
export const penLayout = (look: (typeof faces)[keyof typeof faces], apart: boolean) =>
  ({
    position: "fixed",
    inset: 0,
    background: look.ground,
    color: look.text,
    display: "grid",
    gap: "6px",
    p: "8px",
    overflowY: "auto",
    gridTemplateColumns: "minmax(0, 1fr)",
    gridTemplateRows: `auto auto auto auto auto minmax(${apart ? "max-content" : "120px"}, 1fr) auto auto`,
    gridTemplateAreas: '"head" "tack" "plan" "step" "coach" "pads" "dots" "tray"',
    "@media (orientation: landscape) and (max-height: 560px)": {
      gridTemplateColumns: "minmax(0, 1fr) minmax(0, 1fr)",
      gridTemplateRows: "auto auto auto auto minmax(120px, 1fr) auto",
      gridTemplateAreas: '"head step" "tack tray" "plan tray" "coach tray" "pads tray" "dots tray"',
    },
  }) as const;
