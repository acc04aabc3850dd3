import Box from "@mui/material/Box";
import type { Schemas } from "../api/client";
import { nextColour, nextName } from "./cattle-words";
import { capital } from "./words";

/** What to do after the last turn or stop, why, and what to ride before coming back. */
export function NextBar({ advice }: { advice: Schemas["CattleAdviceOut"] }) {
  return (
    <Box role="status" sx={{ borderLeft: `7px solid ${nextColour[advice.next]}`, pl: 1, lineHeight: 1.25 }}>
      <b>{nextName[advice.next]}.</b> {capital(advice.why)}.
      {advice.ride.length > 0 && (
        <> Ride first: {advice.ride.map((step) => step.name.toLowerCase()).join(", then ")}.</>
      )}
    </Box>
  );
}
