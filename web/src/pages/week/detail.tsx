import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Panel } from "../../parts/panel";
import { placeName } from "../../parts/words";
import { inkSoft } from "../../theme/tokens";
import { pullName } from "./chip";
import { known } from "./known";
import type { Ride, Week } from "./use-week";

/** One ride, where its figures come from, and what can be done with it. */
export function Detail(props: {
  week: Week;
  ride: Ride;
  mayChange: boolean;
  swapping: boolean;
  on: {
    lock: () => void;
    drop: () => void;
    swap: () => void;
    later: (slots: number) => void;
    rider: () => void;
    place: () => void;
  };
}) {
  const { week, ride, on } = props;
  const work = known(week.works, ride.work);
  const horse = known(week.horses, work?.horse_id);
  const rider = known(week.riders, ride.rider);
  if (!work || !horse) return null;
  const works = week.rides.map((r) => known(week.works, r.work));
  const load = works.reduce((sum, w) => sum + (w?.horse_id === horse.id ? w.load : 0), 0);
  return (
    <Panel name="The ride">
      <Typography variant="h2">
        {horse.name}: {work.name}
      </Typography>
      <Typography sx={{ fontWeight: 600 }}>
        {ride.start}, {work.minutes} minutes, {placeName[ride.place].toLowerCase()}, {rider?.name}
        {work.motive && ` · ${pullName[work.motive]}`}
      </Typography>
      <Box component="ul" sx={{ my: 1, pl: 2.25, color: inkSoft }}>
        {work.why.map((why) => (
          <li key={why}>{why}.</li>
        ))}
        <li>
          {horse.why}. This week {load} of {horse.week}.
        </li>
      </Box>
      {props.mayChange && !ride.ridden && (
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
          <Button variant="outlined" aria-pressed={ride.locked} onClick={on.lock}>
            {ride.locked ? "Unlock (L)" : "Lock (L)"}
          </Button>
          <Button variant="outlined" onClick={() => on.later(-1)}>
            Earlier (↑)
          </Button>
          <Button variant="outlined" onClick={() => on.later(1)}>
            Later (↓)
          </Button>
          <Button variant="outlined" onClick={on.rider}>
            Other rider (R)
          </Button>
          {work.places.length > 1 && (
            <Button variant="outlined" onClick={on.place}>
              Other place (E)
            </Button>
          )}
          <Button variant="outlined" aria-pressed={props.swapping} onClick={on.swap}>
            {props.swapping ? "Now pick the other" : "Swap (X)"}
          </Button>
          <Button variant="outlined" color="error" onClick={on.drop}>
            Drop (Del)
          </Button>
        </Box>
      )}
    </Panel>
  );
}
