import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { week as weekQuery } from "../../api/queries";
import { useMe } from "../../parts/me";
import { Panel } from "../../parts/panel";
import { FormTrouble } from "../../parts/states";
import { sageDark } from "../../theme/tokens";
import { usePlan, usePublish } from "../week/use-plan";

/** Mends the rest of this week after a ride was not ridden, and keeps what moved as a draft. */
export function useMend() {
  const me = useMe();
  const client = useQueryClient();
  const [week, setWeek] = useState<Schemas["WeekOut"] | null>(null);
  const query = weekQuery(me.today);
  const show = (now: Schemas["WeekOut"]) => {
    client.setQueryData(query.queryKey, now);
    setWeek(now);
  };
  const planner = usePlan(me.today, { rides: () => undefined, done: show });
  const publish = usePublish(me.today, async () => week?.version ?? 0, setWeek);
  return {
    planner,
    week,
    publish,
    /** Only a trainer's week can be mended, and only one that was planned. */
    async mend() {
      if (me.role !== "trainer") return;
      const now = await client.fetchQuery({ ...query, staleTime: 0 });
      if (now.version > 0) await planner.run(now.version, "all");
    },
  };
}

/** What mending moved, and the way to let everyone see it. */
export function Mended({ of }: { of: ReturnType<typeof useMend> }) {
  const { planner, week, publish } = of;
  const error = planner.error ?? publish.error;
  if (!planner.progress && !planner.moved && !error) return null;
  const moved = planner.moved ?? [];
  return (
    <Panel tells edge={sageDark} tight below={2}>
      {planner.progress ? (
        <b>Mending the week</b>
      ) : (
        <b>
          {moved.length > 0
            ? `The week is mended: ${moved.length} moved`
            : "The rest of the week is unchanged"}
          {week?.state === "published" && ", and everyone sees it"}
        </b>
      )}
      {moved.length > 0 && (
        <Box component="ul" sx={{ mx: 0, my: 0.75, pl: 2.5 }}>
          {moved.map((m) => (
            <li key={m}>{m}</li>
          ))}
        </Box>
      )}
      <FormTrouble error={error} />
      {!planner.progress && (
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 0.75 }}>
          {week?.state === "draft" && (
            <Button variant="contained" disabled={publish.isPending} onClick={() => publish.mutate()}>
              Publish
            </Button>
          )}
          <Button component={Link} to="/week" variant="outlined">
            Look at the week
          </Button>
          <Button onClick={planner.forget}>Dismiss</Button>
        </Box>
      )}
    </Panel>
  );
}
