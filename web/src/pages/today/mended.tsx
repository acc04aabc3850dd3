import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { today as todayQuery, week as weekQuery } from "../../api/queries";
import { useMe } from "../../parts/me";
import { FormTrouble } from "../../parts/states";
import { paper, rule, sageDark } from "../../theme/tokens";
import { usePlan } from "../week/use-plan";

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
  const publish = useMutation({
    mutationFn: async (version: number) =>
      ask(api.POST("/api/weeks/{day}/publish", { params: { path: { day: me.today } }, body: { version } })),
    onSuccess: (now) => {
      show(now);
      void client.invalidateQueries({ queryKey: todayQuery.queryKey });
    },
  });
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
    <Box
      role="status"
      sx={{
        background: paper,
        border: `1px solid ${rule}`,
        borderLeft: `6px solid ${sageDark}`,
        px: 1.5,
        py: 1,
        mb: 2,
        display: "grid",
        gap: 0.75,
      }}
    >
      {planner.progress ? (
        <b>Mending the week</b>
      ) : (
        <b>
          {moved.length > 0
            ? `The week is mended: ${moved.length} moved`
            : "The rest of the week stands as it was"}
          {week?.state === "published" && ", and everyone sees it"}
        </b>
      )}
      {moved.length > 0 && (
        <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
          {moved.map((m) => (
            <li key={m}>{m}</li>
          ))}
        </Box>
      )}
      <FormTrouble error={error} />
      {!planner.progress && (
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
          {week?.state === "draft" && (
            <Button
              variant="contained"
              disabled={publish.isPending}
              onClick={() => publish.mutate(week.version)}
            >
              Publish
            </Button>
          )}
          <Button component={Link} to="/week" variant="outlined">
            Look at the week
          </Button>
          <Button onClick={planner.forget}>Seen</Button>
        </Box>
      )}
    </Box>
  );
}
