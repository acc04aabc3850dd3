import Box from "@mui/material/Box";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { intakeOf } from "../../api/queries";
import { many, sideName } from "../../parts/words";
import { faces, pine, sideColour, slab, white, type Face } from "../../theme/tokens";
import { Big } from "./big";

/** An intake ride: the next ask, the one that tells most, and at the end where the horse was placed. */
export function IntakeBar(props: {
  ride: string;
  asks: number;
  changes: number;
  waiting: number;
  face: Face;
  goTo: (step: string) => void;
  onStop: () => void;
}) {
  const { ride, asks, waiting, goTo } = props;
  const look = faces[props.face];
  const { data, error } = useQuery({ ...intakeOf(ride, asks, props.changes), enabled: waiting === 0 });
  const step = data?.next?.step;
  const asked = data?.asks;
  const gone = useRef("");
  useEffect(() => {
    // Gone to once, when it is named: the rider may pick another rung meanwhile.
    const named = `${asked} ${step}`;
    if (!step || gone.current === named) return;
    gone.current = named;
    goTo(step);
  }, [step, asked, goTo]);
  const next = data?.next;
  return (
    <Box
      role="status"
      aria-label="Intake ride"
      sx={{
        minHeight: 56,
        display: "flex",
        alignItems: "center",
        gap: 1.25,
        px: 1.25,
        background: data?.done ? pine : look.panel,
        color: data?.done ? white : look.text,
        borderLeft: `8px solid ${next ? sideColour[next.side] : pine}`,
      }}
    >
      <Box sx={{ minWidth: 0, lineHeight: 1.15, flex: 1 }}>
        {next && (
          <>
            <Box component="b" sx={{ fontFamily: slab, fontSize: "1.2rem" }}>
              {next.side === "both" ? next.name : `${sideName[next.side]}: ${next.name.toLowerCase()}`}
            </Box>
            <Box component="span" sx={{ display: "block", fontSize: "0.95rem" }}>
              {next.why}. {many(data.asks, "ask")} of {data.most}
            </Box>
          </>
        )}
        {data?.done && (
          <>
            <Box component="b" sx={{ fontFamily: slab, fontSize: "1.15rem" }}>
              {data.done}
            </Box>
            <Box component="span" sx={{ display: "block", fontSize: "0.95rem" }}>
              {placed(data.holes)}
              {data.stiff && data.stiff !== "both" && ` Stiff ${data.stiff}.`}
            </Box>
          </>
        )}
        {!data &&
          (error
            ? "No signal: the next ask is not known. Ride on as you would."
            : "Choosing the first ask …")}
      </Box>
      <Big face={props.face} onClick={props.onStop}>
        Stop guiding
      </Big>
    </Box>
  );
}

/** "Begin with hip over, left, and poll on two reins." */
function placed(holes: { name: string; side: "left" | "right" | "both" }[]): string {
  const named = holes
    .slice(0, 4)
    .map((h) => `${h.name.toLowerCase()}${h.side === "both" ? "" : `, ${h.side}`}`);
  if (named.length === 0) return "No hole was found.";
  return `Begin with ${named.join("; ")}.`;
}
