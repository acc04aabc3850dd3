import Box from "@mui/material/Box";
import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { faces, marigold, type Face } from "../../theme/tokens";

/** Between reps: cues, standard, where the horse stands, what quitting looks like, and the caution. */
export function Reminder(props: {
  rung: Schemas["RungOut"];
  step: Schemas["StepOut"];
  standing: Schemas["StandingOut"];
  plan: Schemas["PlanOut"] | undefined;
  face: Face;
  /** Last time's figures. */
  before: ReactNode;
}) {
  const { rung, plan } = props;
  const look = faces[props.face];
  const now = props.standing.steps.find((s) => s.id === props.step.id);
  const main = plan?.parts.find((p) => p.purpose === "main")?.step === props.step.id;
  return (
    <Box sx={{ display: "grid", gap: 1, p: 1, fontSize: { xs: "1.05rem", sm: "1.2rem" }, maxWidth: 1000 }}>
      {props.before}
      <div>
        <b>Ask</b> {rung.ask.join(", ")}. <b>Answer</b> {rung.answer.join(" and ")}.
      </div>
      <div>
        <b>Standard</b> {rung.standard.words}.{rung.left && ` Left is ${rung.left}.`}
      </div>
      {now?.why[0] && <div style={{ color: look.muted }}>{now.why[0]}.</div>}
      {main && (
        <div>
          <b>Quit</b> {plan.quit.replace(/^quit /, "")}.
        </div>
      )}
      {rung.cautions[0] && <Box sx={{ borderLeft: `6px solid ${marigold}`, pl: 1 }}>{rung.cautions[0]}</Box>}
    </Box>
  );
}
