import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../../api/client";
import { about } from "../../parts/lengths";
import { inkSoft, marigold } from "../../theme/tokens";

/** What the run comes to, whose abilities it rests on, and what to mind. */
export function Outcome(props: {
  run: Schemas["RunOut"];
  able: Schemas["AbleOut"] | undefined;
  /** Whether what the horse can do was typed. */
  typed: boolean;
  name: string;
  units: Schemas["Units"];
}) {
  const { run, able, name } = props;
  return (
    <>
      <Typography className="no-print" component="p" sx={{ fontSize: "1.15rem" }}>
        <b>{run.seconds.toFixed(2)} s</b> · {about(props.units, run.length)} · {run.strides.toFixed(0)}{" "}
        strides
        <Box component="span" sx={{ display: "block", fontSize: "0.92rem", color: inkSoft }}>
          {props.typed
            ? `${name} as you typed it`
            : able?.times
              ? `${name} as ${able.times} times of its own make it, give or take ${(100 * (able.spread[0] ?? 0)).toFixed(0)} % of speed`
              : `As horses ${able?.gait ?? "go"}; passes with times make it ${name}'s own`}
        </Box>
      </Typography>
      {run.cautions.map((caution) => (
        <Box key={caution} className="no-print" sx={{ borderLeft: `6px solid ${marigold}`, pl: 1.5 }}>
          {caution}
        </Box>
      ))}
    </>
  );
}
