import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../../api/client";
import { Empty } from "../../parts/states";
import { inkSoft } from "../../theme/tokens";

/** What a set-up gave up against the standard, in few words. */
export function GaveUp({ fit }: { fit: Schemas["FitOut"] }) {
  const percent = (share: number) => `${(100 * share).toFixed(0)} %`;
  return (
    <Typography role="status" sx={{ color: inkSoft }}>
      {fit.scale >= 0.995
        ? "The whole standard pattern fits."
        : `${percent(fit.scale)} of the standard fits; a foot more of pen all round would make it ${percent(fit.with_a_foot_more)}.`}
      {fit.over_bad_ground.length > 0 && " It still goes over bad ground."}
    </Typography>
  );
}

/** A pen with no barrels in it: what to do. */
export function StartWith({ onFit, busy }: { onFit: () => void; busy: boolean }) {
  return (
    <Empty>
      <Typography sx={{ mb: 1.5 }}>
        No barrels in this pen yet. Cavesson finds the largest true pattern that it holds, with room to the
        fences, off bad ground.
      </Typography>
      <Button variant="contained" onClick={onFit} disabled={busy}>
        Fit the largest pattern
      </Button>
    </Empty>
  );
}
