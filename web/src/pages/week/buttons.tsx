import Button from "@mui/material/Button";
import { Link } from "react-router";
import type { Lane } from "./spots";
import type { Week } from "./use-week";

/** What opens over the week. */
export type Sheet = "hours" | "calendars" | "away";

/** What can be done with the week as a whole. What leads nowhere just now is `null`. */
export function Buttons(props: {
  week: Week;
  by: Lane;
  onBy: () => void;
  mayPlan: boolean;
  planning: boolean;
  planned: boolean;
  onSheet: (sheet: Sheet) => void;
  onUndo: (() => void) | null;
  onPlan: (keep: "locked" | "all") => void;
  onPublish: (() => void) | null;
}) {
  const { by, planned, planning, onUndo, onPublish } = props;
  return (
    <>
      <Button variant="outlined" aria-pressed={by === "place"} onClick={props.onBy}>
        {by === "rider" ? "By place" : "By rider"}
      </Button>
      <Button component={Link} to="/week/appointments" variant="text">
        Appointments
      </Button>
      <Button component={Link} to="/week/balance" variant="text">
        Balance
      </Button>
      {props.mayPlan && (
        <>
          <Button variant="text" onClick={() => props.onSheet("hours")}>
            Hours
          </Button>
          <Button variant="text" onClick={() => props.onSheet("calendars")}>
            Calendars
          </Button>
          <Button variant="outlined" onClick={() => props.onSheet("away")}>
            Someone is off
          </Button>
          <Button variant="outlined" disabled={!onUndo} onClick={() => onUndo?.()}>
            Undo (U)
          </Button>
          {planned && (
            <Button variant="outlined" disabled={planning} onClick={() => props.onPlan("all")}>
              Mend
            </Button>
          )}
          <Button
            variant={planned ? "outlined" : "contained"}
            disabled={planning}
            onClick={() => props.onPlan("locked")}
          >
            {planned ? "Plan again" : "Plan the week"}
          </Button>
          {props.week.state === "draft" && planned && (
            <Button variant="contained" disabled={!onPublish} onClick={() => onPublish?.()}>
              Publish
            </Button>
          )}
        </>
      )}
    </>
  );
}
