import Box from "@mui/material/Box";
import type { ComponentProps, ReactNode } from "react";
import { paper, rule } from "../../theme/tokens";
import { CloseUp } from "./close-up";
import { Drawing } from "./drawing";
import { SpeedStrip } from "./speed-strip";

/** How high the pen is drawn: what is left of the page beside the head and the speeds. */
const HIGH = { xs: 430, md: "max(430px, calc(100vh - 342px))" };
/** More barrels do not fit beside the pen. */
const CLOSE_UPS = 4;

/** The pen to scale, each barrel up close beside it, and speed over the way below. */
export function Stage(props: ComponentProps<typeof Drawing> & { instead: ReactNode }) {
  const { instead, ...drawing } = props;
  const { setUp, run, units, picked, t, tracks } = drawing;
  const closeUps = run !== undefined && setUp.barrels.length <= CLOSE_UPS;
  return (
    <>
      <Box
        sx={{
          display: "grid",
          gap: 1,
          gridTemplateColumns: {
            xs: "minmax(0, 1fr)",
            sm: closeUps ? "minmax(0, 1fr) 168px" : "minmax(0, 1fr)",
          },
          "& > :first-of-type": { height: HIGH },
        }}
      >
        <Box sx={{ background: paper, border: `1px solid ${rule}`, minWidth: 0 }}>
          {instead ? <Box sx={{ p: 3 }}>{instead}</Box> : <Drawing {...drawing} />}
        </Box>
        {closeUps && (
          <Box
            className="no-print"
            sx={{
              display: "flex",
              gap: 1,
              minWidth: 0,
              minHeight: 0,
              flexDirection: { xs: "row", sm: "column" },
              height: { xs: 150, sm: HIGH.md },
            }}
          >
            {setUp.barrels.map((_, n) => (
              <CloseUp
                key={n}
                setUp={setUp}
                run={run}
                n={n}
                units={units}
                picked={picked === n}
                onPick={() => props.onPick(n)}
              />
            ))}
          </Box>
        )}
      </Box>
      {run && <SpeedStrip run={run} units={units} t={t} tracks={tracks} />}
    </>
  );
}
