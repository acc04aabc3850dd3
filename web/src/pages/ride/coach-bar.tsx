import Box from "@mui/material/Box";
import { useQuery } from "@tanstack/react-query";
import { Unreachable, type Schemas } from "../../api/client";
import { coachLine } from "../../api/queries";
import { useOutbox } from "../../offline/outbox";
import { Big } from "./big";
import { type Face, faces, marigold, oxblood, pine, slab, white } from "../../theme/tokens";

type Advice = NonNullable<Schemas["CoachOut"]["advice"]>;

const words: Record<Advice, string> = {
  another: "Another",
  "other-side": "Other side",
  "slow-down": "Slow down",
  air: "Air",
  "change-subject": "Something else",
  "quit-here": "Quit here",
  "stop-asking": "Stop asking",
  "look-at-horse": "Look at the horse",
};

/** What the coach says after the last ask, and why. It speaks from what the server has: with no signal it is silent. */
export function CoachBar(props: {
  ride: string;
  reps: number;
  /** Faults and corrections so far: one more is answered. */
  changes: number;
  waiting: number;
  face: Face;
  goTo: (step: string) => void;
  /** Nobody here has asked the horse anything yet. */
  isNew: boolean;
  /** It was ridden here on a few days only. */
  isLittleKnown: boolean;
  onGuide: () => void;
}) {
  const { ride, reps, waiting } = props;
  const look = faces[props.face];
  const line = useQuery({ ...coachLine(ride, reps, props.changes), enabled: reps > 0 && waiting === 0 });
  const { error: trouble } = useOutbox();
  const silent = line.error instanceof Unreachable || (waiting > 0 && trouble !== null);
  const said = reps > 0 && !silent ? line.data : undefined;
  const advice = said?.advice;
  const step = said?.step ?? said?.remedy?.step;
  // A fault is answered before anything else is told beside the advice.
  const trend = said?.trend && !said.why.includes(said.trend.says) ? said.trend.says : null;
  const more = said?.remedy?.says ?? trend;
  const loud = advice === "stop-asking" || advice === "look-at-horse";
  const ground = loud ? oxblood : advice === "quit-here" ? pine : look.panel;
  return (
    <Box
      role="status"
      aria-label="Coach"
      data-coach={advice ?? (silent ? "silent" : "")}
      sx={{
        minHeight: 56,
        display: "flex",
        alignItems: "center",
        gap: 1.25,
        px: 1.25,
        background: ground,
        color: loud || advice === "quit-here" ? white : look.text,
        borderLeft: `8px solid ${advice === "air" || advice === "change-subject" ? marigold : ground}`,
      }}
    >
      {advice ? (
        <>
          <Box
            component="b"
            sx={{ fontFamily: slab, fontSize: "1.2rem", whiteSpace: "nowrap", flex: "none" }}
          >
            {words[advice]}
          </Box>
          <Box sx={{ lineHeight: 1.15, fontSize: "0.98rem", minWidth: 0 }}>
            {/* Beside a remedy a plain "another" has nothing to add, and the bar is small on a phone. */}
            {!(said.remedy && advice === "another") && said.why}
            {more && (
              <Box component="span" sx={{ display: "block", mt: 0.25 }}>
                {more}
              </Box>
            )}
          </Box>
          {step && (
            <Box
              component="button"
              type="button"
              onClick={() => props.goTo(step)}
              sx={{
                font: "inherit",
                fontWeight: 700,
                minHeight: 56,
                px: 1.5,
                ml: "auto",
                border: `2px solid ${look.line}`,
                background: look.text,
                color: look.ground,
                cursor: "pointer",
                whiteSpace: "nowrap",
              }}
            >
              Go there
            </Box>
          )}
        </>
      ) : (
        <Box sx={{ color: look.muted, lineHeight: 1.2, flex: 1 }}>
          {silent
            ? "No signal: the coach is silent. What you log is kept on this device."
            : props.isNew
              ? "Nobody here has asked this horse anything: an intake ride finds out what it knows."
              : "The coach speaks after the first ask."}
        </Box>
      )}
      {reps === 0 && props.isLittleKnown && (
        <Big face={props.face} onClick={props.onGuide}>
          Intake ride
        </Big>
      )}
    </Box>
  );
}
