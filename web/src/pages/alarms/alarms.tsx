import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useInfiniteQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { alarms } from "../../api/queries";
import { CallStamp } from "../../parts/mark";
import { Panel } from "../../parts/panel";
import { Empty, PageLoading, PageTrouble } from "../../parts/states";
import { day, dayInFull, many, percent, postureName, sideName } from "../../parts/words";
import { ink, inkSoft, oxblood, rule, sageDark, slab } from "../../theme/tokens";

type Alarms = Schemas["Alarms"];
type Alarm = Schemas["AlarmOut"];

const answered: Record<Schemas["AlarmAnswer"], string> = {
  "not-yet": "Not ridden since",
  heeded: "Heeded",
  overruled: "Overruled",
  "rode-on": "Rode on",
};
const turnedOut: Record<Schemas["TurnedOut"], string> = {
  open: "Too early to say",
  "borne-out": "Borne out",
  passed: "Passed",
};

/** How many alarms came, what was done about them, and how they turned out. */
export function AlarmsPage() {
  const { data, error, refetch, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery(alarms);
  const first = data?.pages[0];
  if (error && !first)
    return (
      <PageTrouble title="Couldn't load the alarms" detail={error.message} again={() => void refetch()} />
    );
  if (!first) return <PageLoading what="the alarms" />;
  return (
    <>
      <Typography variant="h1" sx={{ mb: 0.5 }}>
        Alarms
      </Typography>
      <Typography sx={{ color: inkSoft, mb: 2, maxWidth: "62ch" }}>
        Since {dayInFull(first.from)}, on {many(first.horses, "horse")}: every call that said a step is
        slipping, or that a horse may be in pain. An alarm counts as borne out when the next three days of
        work on the step were under its standard.
      </Typography>
      <Counts counts={first} />
      {first.raised === 0 ? (
        <Empty>No alarm in ninety days. What is owned stays owned until the record says otherwise.</Empty>
      ) : (
        <Box component="ul" aria-label="Alarms, latest first" sx={{ listStyle: "none", m: 0, p: 0 }}>
          {data.pages
            .flatMap((p) => p.items)
            .map((a) => (
              <Row key={`${a.horse_id} ${a.alarm.step} ${a.alarm.side} ${a.alarm.since}`} {...a} />
            ))}
        </Box>
      )}
      {hasNextPage && (
        <Button variant="outlined" disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
          Earlier alarms
        </Button>
      )}
    </>
  );
}

function Counts({ counts }: { counts: Alarms }) {
  const answers = counts.answers.map((a) => [a.alarms, answered[a.answered].toLowerCase()] as const);
  const outcomes = counts.outcomes.map((o) => [o.alarms, turnedOut[o.turned_out].toLowerCase()] as const);
  return (
    <Box
      sx={{
        display: "grid",
        gap: 1.5,
        mb: 2,
        gridTemplateColumns: { xs: "1fr", md: "1fr 1.3fr 1.3fr 1.9fr" },
      }}
    >
      <Panel name="Raised">
        <Head>Raised</Head>
        <Box sx={{ fontFamily: slab, fontWeight: 700, fontSize: "2.2rem", lineHeight: 1.1 }}>
          {counts.raised}
        </Box>
        <Box sx={{ color: inkSoft }}>on {many(counts.on_horses, "horse")}</Box>
      </Panel>
      <Panel name="What was done">
        <Head>What was done</Head>
        <Figures of={answers} />
      </Panel>
      <Panel name="How they turned out">
        <Head>How they turned out</Head>
        <Figures of={outcomes} />
      </Panel>
      <Panel name="How sure">
        <Head>How sure before an alarm</Head>
        {counts.by_posture.map((p) => (
          <Box
            key={p.posture}
            sx={{ display: "flex", gap: 1, fontWeight: p.posture === counts.posture ? 700 : 400 }}
          >
            <Box component="span" sx={{ flex: 1 }}>
              {postureName[p.posture]}, {percent(p.sure_of_loss)} likely
              {p.posture === counts.posture && ": the barn’s"}
            </Box>
            <span>{many(p.alarms, "alarm")}</span>
          </Box>
        ))}
        <Box component={Link} to="/barn" sx={{ color: ink, display: "inline-block", mt: 0.5 }}>
          Change it on the Barn page
        </Box>
      </Panel>
    </Box>
  );
}

function Head({ children }: { children: string }) {
  return (
    <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
      {children}
    </Typography>
  );
}

function Figures({ of }: { of: (readonly [number, string])[] }) {
  return of.map(([n, what]) => (
    <Box key={what} sx={{ display: "flex", gap: 1, color: n > 0 ? ink : inkSoft }}>
      <Box component="span" sx={{ fontWeight: 700, minWidth: 24, textAlign: "right" }}>
        {n}
      </Box>
      {what}
    </Box>
  ));
}

function Row({ horse_id, horse_name, alarm }: Schemas["HorseAlarm"]) {
  const side = alarm.side === "both" ? "" : `, ${sideName[alarm.side].toLowerCase()}`;
  return (
    <Box
      component="li"
      sx={{
        display: "grid",
        gap: { xs: 0.25, md: 2 },
        gridTemplateColumns: { xs: "1fr", md: "96px minmax(0, 1.5fr) 150px minmax(0, 1fr)" },
        alignItems: "baseline",
        borderTop: `1px solid ${rule}`,
        py: 1.25,
      }}
    >
      <Box sx={{ color: inkSoft }}>{day(alarm.since)}</Box>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
        <CallStamp call={alarm.step ? "back" : "look-at"} />
        <span>
          <Box component={Link} to={`/horses/${horse_id}`} sx={{ color: ink, fontWeight: 700 }}>
            {horse_name}
          </Box>
          : {alarm.name ?? "possible pain"}
          {side}, {percent(alarm.likely)} likely
        </span>
      </Box>
      <Box sx={{ fontWeight: 650 }}>{alarm.step ? answered[alarm.answered] : looked[alarm.answered]}</Box>
      <Outcome alarm={alarm} />
    </Box>
  );
}

/** Possible pain is answered by looking. */
const looked: Record<Schemas["AlarmAnswer"], string> = {
  ...answered,
  heeded: "Someone looked",
  "rode-on": "Ridden, nobody looked",
};

function Outcome({ alarm }: { alarm: Alarm }) {
  if (!alarm.step)
    return (
      <Box sx={{ color: inkSoft }}>
        {alarm.ended ? `Cleared on ${day(alarm.ended)}` : "Stays until someone writes down what was found"}
      </Box>
    );
  const since = alarm.reps > 0 ? `${alarm.met} of ${alarm.reps} asks since met the standard` : "";
  const color = { open: inkSoft, "borne-out": oxblood, passed: sageDark }[alarm.turned_out];
  return (
    <Box>
      <Box component="span" sx={{ color, fontWeight: 650 }}>
        {turnedOut[alarm.turned_out]}
      </Box>
      {since && <Box component="span">: {since}</Box>}
      {alarm.ended && <Box sx={{ color: inkSoft }}>Over on {day(alarm.ended)}</Box>}
    </Box>
  );
}
