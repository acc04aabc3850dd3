import Box from "@mui/material/Box";
import GlobalStyles from "@mui/material/GlobalStyles";
import Typography from "@mui/material/Typography";
import { useDeferredValue, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { useKeys } from "../../parts/keys";
import { useMe } from "../../parts/me";
import { useSignal } from "../../parts/signal";
import { Empty, FormTrouble, PageLoading, PageTrouble } from "../../parts/states";
import { inkSoft } from "../../theme/tokens";
import { AwayForm } from "./away-form";
import { Buttons, type Sheet } from "./buttons";
import { Calendars } from "./calendars";
import { Detail } from "./detail";
import { Grid } from "./grid";
import { Planning, Title } from "./head";
import { HoursForm } from "./hours-form";
import { Notices } from "./notices";
import { onTheWall } from "./on-the-wall";
import type { Lane } from "./spots";
import { Tray } from "./tray";
import { useHands } from "./use-hands";
import { usePlan, usePublish } from "./use-plan";
import { useWeek, type Week as WeekOut } from "./use-week";

/** The week: who rides whom, when, where, on what. */
export function Week() {
  const me = useMe();
  const { day = me.today } = useParams();
  const navigate = useNavigate();
  const { query, ...edit } = useWeek(day);
  const planner = usePlan(day, { rides: edit.preview, done: edit.planned });
  const publish = usePublish(day, edit.version);
  const [by, setBy] = useState<Lane>("rider");
  const [sheet, setSheet] = useState<Sheet | null>(null);
  const week = query.data;
  const signal = useSignal();
  const mayChange = me.role === "trainer" && signal;
  const hands = useHands(week, edit, by, mayChange);
  const run = async (keep: "locked" | "all") => {
    hands.letGo();
    edit.begin();
    const version = await edit.version();
    if (!(await planner.run(version, keep))) edit.again();
  };
  useKeys({
    u: () => mayChange && edit.undo(),
    Escape: hands.letGo,
    "<": () => week && navigate(`/week/${week.previous}`),
    ">": () => week && navigate(`/week/${week.next}`),
  });

  if (query.error && !week)
    return (
      <PageTrouble
        title="Couldn't load the week"
        detail={query.error.message}
        again={() => void query.refetch()}
      />
    );
  if (!week) return <PageLoading what="the week" />;

  const planning = !!planner.progress;
  const planned = week.rides.some((r) => !r.ridden);
  const mayPlan = mayChange && week.first_open <= 6;
  return (
    <>
      <GlobalStyles styles={onTheWall} />
      <Box sx={{ display: "flex", alignItems: "end", gap: 1.5, flexWrap: "wrap", mb: 1.5 }}>
        <Title week={week} planning={planning} scoreBefore={edit.scoreBefore} />
        <Buttons
          week={week}
          by={by}
          onBy={() => setBy(by === "rider" ? "place" : "rider")}
          mayPlan={mayPlan}
          planning={planning}
          planned={planned}
          onSheet={setSheet}
          onUndo={edit.mayUndo ? edit.undo : null}
          onPlan={(keep) => void run(keep)}
          onPublish={publish.isPending ? null : () => publish.mutate()}
        />
      </Box>
      {planner.progress && <Planning progress={planner.progress} onStop={planner.stop} />}
      <FormTrouble error={planner.error ?? publish.error} />
      <Notices
        week={week}
        signal={signal}
        trouble={edit.trouble}
        onAgain={edit.again}
        moved={planner.moved}
        onSeen={planner.forget}
      />
      {week.rides.length === 0 && !planning && (
        <Empty>
          {me.role === "trainer"
            ? "Nothing is planned yet. Plan the week: it takes a few seconds, and nobody sees it until you publish it."
            : "Nothing is published for this week yet."}
        </Empty>
      )}
      <Grid
        week={week}
        by={by}
        selected={hands.selected}
        carrying={mayChange && !!hands.carrying}
        onSelect={hands.select}
        onDrag={hands.setCarrying}
        onPut={(spot) => void hands.put(spot)}
        onKey={hands.press}
      />
      <Below week={week} hands={hands} mayChange={mayChange} mayPlan={mayPlan} planning={planning} />
      {sheet === "hours" && <HoursForm week={week} onClose={() => setSheet(null)} />}
      {sheet === "calendars" && <Calendars week={week} onClose={() => setSheet(null)} />}
      {sheet === "away" && (
        <AwayForm
          week={week}
          onClose={() => setSheet(null)}
          onDone={() => {
            setSheet(null);
            void query.refetch().then(() => (planned ? run("all") : undefined));
          }}
        />
      )}
    </>
  );
}

/** Under the grid: the ride that is picked, and what was left out. */
function Below(props: {
  week: WeekOut;
  hands: ReturnType<typeof useHands>;
  mayChange: boolean;
  mayPlan: boolean;
  planning: boolean;
}) {
  const { week, hands, mayChange } = props;
  const ride = hands.find(hands.selected);
  // The week itself is there first: what stands below the fold follows when it is on the screen.
  const after = useDeferredValue(true, false);
  if (!after) return null;
  return (
    <Box
      className="no-print"
      sx={{
        display: "grid",
        gap: 2,
        mt: 2,
        gridTemplateColumns: { xs: "1fr", md: "1fr 1fr" },
        alignItems: "start",
      }}
    >
      {ride ? (
        <Detail
          week={week}
          ride={ride}
          mayChange={mayChange}
          swapping={hands.swap === hands.selected}
          on={hands.on(week, ride)}
        />
      ) : (
        <Typography sx={{ color: inkSoft, p: 1 }}>
          Pick a ride to see why it is there. ← → moves it a day, ↑ ↓ a quarter of an hour; L locks it, R
          gives it to another rider, X swaps it, Del drops it.
        </Typography>
      )}
      {week.rides.length > 0 && !props.planning && (
        <Tray week={week} mayChange={props.mayPlan} carrying={hands.carrying} onTake={hands.setCarrying} />
      )}
    </Box>
  );
}
