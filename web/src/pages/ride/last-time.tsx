import Box from "@mui/material/Box";
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { trace } from "../../api/queries";
import { day, sideName, type Side } from "../../parts/words";
import { faces, sideColour, type Face } from "../../theme/tokens";
import type { Rep } from "./session";

type Answer = { weight: string; seconds?: number | null };
const told = (a: Answer) => `${a.weight}${a.seconds == null ? "" : ` ${a.seconds.toFixed(1)} s`}`;

/** Last time's figures of the same step, by side, with today's first ask beside its first. */
export function LastTime(props: {
  horse: string;
  step: Schemas["StepOut"];
  /** The day of this ride. */
  today: string;
  /** Today's asks of the step, in order. */
  reps: Rep[];
  face: Face;
}) {
  const { step, today, reps } = props;
  const { data } = useQuery(trace(props.horse, step.id));
  const look = faces[props.face];
  const rows = step.sides.flatMap((side) => {
    const point = data?.points.findLast((p) => p.side === side && p.date < today);
    const first = reps.find((r) => r.set.side === side);
    return point || first ? [{ side, point, first, answers: answersOn(data, side, point?.date) }] : [];
  });
  if (rows.length === 0) return null;
  return (
    <Box role="group" aria-label="Last time" sx={{ display: "grid", gap: 0.25 }}>
      {rows.map(({ side, point, first, answers }) => (
        <Box key={side} sx={{ borderLeft: `6px solid ${sideColour[side]}`, pl: 1 }}>
          {side !== "both" && <b>{sideName[side]} </b>}
          {point && (
            <>
              {day(point.date)}: {point.met} of {point.reps}
              {answers && `, first ask ${told(answers.first)}`}
            </>
          )}
          {first && (
            <Box component="span" sx={{ color: look.text, fontWeight: 650 }}>
              {point ? "; today " : "today "}
              {first.outcome === "gave" ? told(first) : first.outcome}
            </Box>
          )}
        </Box>
      ))}
    </Box>
  );
}

const answersOn = (data: Schemas["Trace"] | undefined, side: Side, date?: string) =>
  data?.answers.find((a) => a.side === side && a.date === date);
