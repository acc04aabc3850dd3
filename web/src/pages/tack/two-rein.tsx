import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { twoRein } from "../../api/queries";
import { useMe } from "../../parts/me";
import { Panel } from "../../parts/panel";
import { Empty, FormTrouble, PageLoading } from "../../parts/states";
import { many, percent } from "../../parts/words";
import { inkSoft } from "../../theme/tokens";
import { ShareForm } from "./share-form";
import { ShareStrip } from "./share-strip";

const date = new Intl.DateTimeFormat("en-US", {
  month: "short",
  day: "numeric",
  year: "numeric",
  timeZone: "UTC",
});
const day = (on?: string | null) => (on ? date.format(new Date(on)) : "in more than five years");

/** A horse in the two-rein: where it is, what it asked for, and when it may go straight up in the bridle. */
export function TwoRein({ horse }: { horse: string }) {
  const { role } = useMe();
  const { data, error } = useQuery(twoRein(horse));
  return (
    <>
      <FormTrouble error={error} />
      {!data && !error && <PageLoading what="the two-rein" />}
      {data?.rides.length === 0 && (
        <Empty>
          No ride in the two-rein is noted yet. The share is moved on Ride, or noted below: a tenth on the
          bridle is where most begin.
        </Empty>
      )}
      {data?.readiness && <Now rides={data.rides} now={data.readiness} />}
      {data && data.rides.length > 0 && (
        <Panel name="The share over the months">
          <ShareStrip rides={data.rides} />
        </Panel>
      )}
      {data && role !== "owner" && (
        <ShareForm key={horse} horse={horse} known={data.rides} next={data.readiness?.next ?? 10} />
      )}
    </>
  );
}

/** Where the horse is, and what comes next. */
function Now(props: { rides: Schemas["SharedRideOut"][]; now: Schemas["ReadinessOut"] }) {
  const { now, rides } = props;
  const lately = rides.slice(-4);
  const sum = (of: (ride: Schemas["SharedRideOut"]) => number) => lately.reduce((n, ride) => n + of(ride), 0);
  return (
    <Panel name="Where it is">
      <Typography sx={{ fontSize: "1.25rem", fontWeight: 700 }}>
        Begin the next ride with {now.next} % on the bridle
      </Typography>
      <Typography sx={{ mb: 1 }}>{now.why}.</Typography>
      <Typography>
        It carries <b>{percent(now.share)}</b> on an ordinary day, {now.in_a_month >= 0 ? "+" : "−"}
        {Math.abs(Math.round(100 * now.in_a_month))} a month. In the last {many(lately.length, "ride")} it
        asked for more{" "}
        {many(
          sum((r) => r.more),
          "time",
        )}{" "}
        and for less{" "}
        {many(
          sum((r) => r.less),
          "time",
        )}
        .
      </Typography>
      <Typography>
        Straight up in the bridle: as likely as not by <b>{day(now.middle)}</b>, hardly before{" "}
        {day(now.early)}, nine times of ten by {day(now.late)}.
      </Typography>
      <Typography sx={{ color: inkSoft, fontSize: "0.95rem", mt: 1 }}>
        From {many(rides.length, "ride")}, and from what horses do: about a year in the two-rein. The horse
        asks for the change, not the calendar.
      </Typography>
    </Panel>
  );
}
