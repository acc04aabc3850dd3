import Box from "@mui/material/Box";
import { type Face, faces, slab } from "../../theme/tokens";
import { many } from "../../parts/words";
import { Big } from "./big";

/** Who is ridden by whom, what is sent, and the way out. */
export function PenHead(props: {
  name: string;
  rider: string;
  /** What the horse wears, where that does not stand elsewhere. */
  wears: string;
  /** Asks that were logged, and what they are called. */
  reps: number;
  called: "rep" | "ask";
  waiting: number;
  face: Face;
  mayUndo: boolean;
  onFace: () => void;
  onUndo: () => void;
  onLeave: () => void;
  onClose: () => void;
  onHandOver: () => void;
}) {
  const { face, reps, waiting } = props;
  const look = faces[face];
  return (
    <Box component="header" sx={{ gridArea: "head", display: "flex", gap: "6px", alignItems: "center" }}>
      <Box
        component="button"
        type="button"
        aria-label={`Ridden by ${props.rider}: hand over`}
        onClick={props.onHandOver}
        sx={{
          flex: 1,
          minWidth: 0,
          minHeight: 56,
          font: "inherit",
          textAlign: "left",
          border: 0,
          p: 0,
          background: "none",
          color: look.text,
          cursor: "pointer",
        }}
      >
        <Box
          component="h1"
          sx={{
            m: 0,
            fontFamily: slab,
            fontSize: "1.35rem",
            fontWeight: 700,
            lineHeight: 1.1,
            whiteSpace: "nowrap",
            overflow: "hidden",
            textOverflow: "ellipsis",
          }}
        >
          {props.name}
        </Box>
        <Box sx={{ color: look.muted, fontSize: "0.95rem", lineHeight: 1.15, overflowWrap: "anywhere" }}>
          {props.wears}
        </Box>
        <Box aria-live="polite" sx={{ color: look.muted, fontSize: "0.95rem", lineHeight: 1.15 }}>
          {many(reps, props.called)}
          {waiting > 0 ? `, ${waiting} to send` : reps > 0 ? ", all sent" : ""}
        </Box>
      </Box>
      <Big
        face={face}
        label={face === "dark" ? "Face for full sun" : "Face for shade"}
        onClick={props.onFace}
      >
        {face === "dark" ? "Sun" : "Shade"}
      </Big>
      <Big face={face} onClick={props.onUndo} label="Undo" disabled={!props.mayUndo} hint="U">
        Undo
      </Big>
      <Big face={face} onClick={props.onLeave} label="Leave the ride open">
        Leave
      </Big>
      <Big face={face} onClick={props.onClose} hint="C">
        Close
      </Big>
    </Box>
  );
}
