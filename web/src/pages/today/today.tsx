import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Suspense, useState } from "react";
import { Link } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { today } from "../../api/queries";
import { useAfterPaint } from "../../parts/after-paint";
import { onDemand } from "../../parts/on-demand";
import { OneOf } from "../../parts/one-of";
import { Panel } from "../../parts/panel";
import { CallStamp, statusWord } from "../../parts/mark";
import { useMe } from "../../parts/me";
import { Empty, PageLoading, PageTrouble } from "../../parts/states";
import { whereName } from "../../parts/where";
import { clock, day, dayHeading, many } from "../../parts/words";
import { denim, ink, inkSoft, marigold, oxblood, rule, rust, sageDark, slab } from "../../theme/tokens";
import { Mended, useMend } from "./mended";
import { Missed, Unanswered, WhyNot } from "./not-ridden";
import { OnPaper } from "./on-paper";
import { ToBePlaced } from "./to-be-placed";
import { TodayHeat } from "./today-heat";

type TodayRide = Schemas["TodayRide"];

const AddRide = onDemand(() => import("./add-ride").then((m) => m.AddRide));

/** As many rides as a large screen shows. */
const ON_THE_SCREEN = 8;

/** The day: one row a ride in order of the clock, what it is for, and one button. */
export function Today() {
  const me = useMe();
  const { data, error, refetch } = useQuery(today);
  const painted = useAfterPaint(data !== undefined);
  const [adding, setAdding] = useState(false);
  const [rider, setRider] = useState<string | null>(null);
  const mending = useMend();
  if (error && !data)
    return <PageTrouble title="Couldn't load today" detail={error.message} again={() => void refetch()} />;
  if (!data) return <PageLoading what="today's rides" />;
  const riders = [...new Map(data.rides.map((r) => [r.ride.rider_id, r.ride.rider_name]))];
  const shown = data.rides.filter((r) => !rider || r.ride.rider_id === rider);
  const done = data.rides.filter((r) => r.ride.state === "closed").length;
  return (
    <>
      {painted && <OnPaper today={data} />}
      <Box className="no-print">
        <Box sx={{ display: "flex", alignItems: "end", gap: 2, flexWrap: "wrap", mb: 2 }}>
          <Box sx={{ flex: 1, minWidth: 220 }}>
            <Typography variant="h1">{dayHeading(data.date)}</Typography>
            <Typography sx={{ color: inkSoft }}>
              {many(data.rides.length, "ride")}, {done} done
            </Typography>
          </Box>
          <OneOf label="Whose rides" of={[[null, "Everyone"], ...riders]} picked={rider} onPick={setRider} />
          {me.role !== "owner" && (
            <>
              <Button component={Link} to="/shorthand" variant="outlined">
                Log in shorthand
              </Button>
              <Button variant="outlined" onClick={() => setAdding(true)}>
                Add a ride
              </Button>
            </>
          )}
        </Box>
        {me.role === "trainer" && <ToBePlaced rides={data.rides} />}
        <TodayHeat />
        <Mended of={mending} />
        {me.role !== "owner" && <Unanswered rides={data.unanswered} onMissed={() => void mending.mend()} />}
        <Box
          sx={{
            display: "grid",
            gap: 3,
            gridTemplateColumns: { xs: "1fr", lg: "minmax(0, 1fr) 300px" },
            alignItems: "start",
          }}
        >
          <Box component="ol" aria-label="Rides" sx={rows}>
            {(painted ? shown : shown.slice(0, ON_THE_SCREEN)).map((entry) => (
              <Row
                key={entry.ride.id}
                entry={entry}
                mayRide={me.role !== "owner"}
                onMissed={() => void mending.mend()}
              />
            ))}
            {shown.length === 0 && <Empty>No rides yet. Add one, or start one from the horse list.</Empty>}
          </Box>
          {painted && <Changes calls={data.calls} changes={data.changes} />}
        </Box>
        {adding && (
          <Suspense fallback={null}>
            <AddRide date={data.date} onClose={() => setAdding(false)} />
          </Suspense>
        )}
      </Box>
    </>
  );
}

/** A row for each ride, and what stands in it: one style for all of them, which are many. */
const rows = {
  listStyle: "none",
  m: 0,
  p: 0,
  borderTop: `2px solid ${ink}`,
  "& > li": {
    display: "grid",
    columnGap: 2,
    rowGap: 0.5,
    py: 1.25,
    borderBottom: `1px solid ${rule}`,
    gridTemplateColumns: { xs: "1fr auto", sm: "64px minmax(0, 1fr) auto" },
    alignItems: "center",
  },
  "& > li.over": { opacity: 0.75 },
  "& p": { m: 0 },
  "& .clock": {
    fontFamily: slab,
    fontSize: "1.25rem",
    fontWeight: 650,
    display: { xs: "none", sm: "block" },
  },
  "& .what": { minWidth: 0 },
  "& .who": { display: "flex", gap: 1.25, alignItems: "center", flexWrap: "wrap" },
  "& .who > .at": { display: { sm: "none" }, fontWeight: 700 },
  "& .who > a": {
    color: ink,
    fontFamily: slab,
    fontWeight: 650,
    fontSize: "1.15rem",
    textDecorationThickness: "1px",
    textUnderlineOffset: "3px",
  },
  "& .soft": { color: inkSoft },
  "& .small": { fontSize: "0.95rem" },
  "& .strong": { fontWeight: 650 },
  "& .line": { my: 0.25 },
  "& .sides": { whiteSpace: "nowrap" },
  "& .left": { color: denim },
  "& .right": { color: rust },
  "& p.noted": { fontSize: "0.95rem", borderLeft: `3px solid ${marigold}`, pl: 1, mt: 0.25 },
  "& .slipping": {
    px: 0.75,
    border: `1.5px solid ${oxblood}`,
    color: oxblood,
    fontWeight: 650,
    fontSize: "0.88rem",
  },
  "& .do": { display: "grid", gap: 0.5, justifyItems: "stretch" },
  "& .ask": { gridColumn: "1 / -1", pb: 0.5 },
} as const;

function Row({ entry, mayRide, onMissed }: { entry: TodayRide; mayRide: boolean; onMissed: () => void }) {
  const { ride } = entry;
  const [asking, setAsking] = useState(false);
  const done = ride.state === "closed";
  return (
    <li className={done || ride.missed ? "over" : undefined}>
      <span className="clock">{clock(ride.starts_at)}</span>
      <div className="what">
        <What entry={entry} />
      </div>
      {mayRide && ride.missed && <Missed ride={ride} />}
      {mayRide && !ride.missed && (
        <div className="do">
          <Button
            component={Link}
            to={`/ride/${ride.id}`}
            variant={done ? "outlined" : "contained"}
            aria-label={`${done ? "Look at the ride of" : "Ride"} ${ride.horse_name}`}
            sx={{ minWidth: 96, minHeight: 56, fontSize: "1.1rem" }}
          >
            {done ? "Done" : ride.state === "open" ? "Go on" : "Ride"}
          </Button>
          {ride.state === "planned" && (
            <Button
              size="small"
              aria-expanded={asking}
              onClick={() => setAsking(!asking)}
              aria-label={`${ride.horse_name} is not ridden`}
              sx={{ minHeight: 36, fontSize: "0.9rem", color: inkSoft }}
            >
              Not ridden?
            </Button>
          )}
        </div>
      )}
      {asking && !ride.missed && (
        <div className="ask">
          <WhyNot ride={ride} onMissed={() => (setAsking(false), onMissed())}>
            {!ride.from_week && <TakeOff ride={ride} />}
          </WhyNot>
        </div>
      )}
    </li>
  );
}

/** Who is ridden by whom and where, and what for. */
function What({ entry }: { entry: TodayRide }) {
  const { ride } = entry;
  return (
    <>
      <div className="who">
        <span className="at">{clock(ride.starts_at)}</span>
        <Link to={`/horses/${ride.horse_id}`}>{ride.horse_name}</Link>
        {entry.horse ? (
          <CallStamp call={entry.horse.call} />
        ) : (
          <>
            {entry.call && <CallStamp call={entry.call} />}
            {entry.slipping.length > 0 && <span className="slipping">{alsoSlipping(entry.slipping)}</span>}
          </>
        )}
        <span className="soft small">
          {ride.rider_name} · {whereName(ride)}
        </span>
      </div>
      {entry.comeback ? <p className="strong">{entry.comeback}</p> : <RideLine line={entry.line} />}
      {entry.horse ? (
        <p className="strong">{entry.horse.why[0]}</p>
      ) : (
        entry.why && !entry.comeback && <p className="soft small">{entry.why}</p>
      )}
      {entry.last_note && (
        <p className="noted">
          From {entry.last_ridden ? day(entry.last_ridden) : "last time"}: {entry.last_note}
        </p>
      )}
    </>
  );
}

/** Takes a ride that was not begun off the day. */
function TakeOff({ ride }: { ride: Schemas["RideOut"] }) {
  const client = useQueryClient();
  const off = useMutation({
    mutationFn: () => ask(api.DELETE("/api/rides/{id}", { params: { path: { id: ride.id } } })),
    onSettled: () => client.invalidateQueries({ queryKey: today.queryKey }),
  });
  return (
    <Button
      disabled={off.isPending}
      onClick={() => off.mutate()}
      aria-label={`Take ${ride.horse_name} off today`}
      sx={{ minHeight: 44 }}
    >
      {off.error ? "Couldn't remove it: try again" : "Remove from today"}
    </Button>
  );
}

/** What slips besides the main subject, short enough for a chip. */
const alsoSlipping = ([first = "", ...more]: string[]) =>
  `also slipping: ${first}${more.length > 0 ? ` and ${more.length} more` : ""}`;

/** Loosen, main, quit: the ride in one line. */
function RideLine({ line }: { line: Schemas["LineOut"] }) {
  const main = line.main;
  return (
    <div className="line">
      {line.loosen.length > 0 && (
        <span className="soft">
          Loosen: {line.loosen.map((s) => s.name).join(", ")} <span aria-label="then">→</span>{" "}
        </span>
      )}
      {main ? (
        <>
          <b>{main.name}</b>
          {main.left != null && main.right != null && main.left !== main.right && (
            <span className="sides">
              {" "}
              <b className="left">L {main.left}</b> / <b className="right">{main.right} R</b>
            </span>
          )}
          <span className="soft">
            {" "}
            <span aria-label="then">→</span> {main.quit}
          </span>
        </>
      ) : (
        <b>Everything on these ladders is owned: keep it, and ride out</b>
      )}
    </div>
  );
}

function Changes({ calls, changes }: { calls: Schemas["CalledHorse"][]; changes: Schemas["HorseChange"][] }) {
  return (
    <Panel by="changes">
      <Typography variant="h2" id="changes" sx={{ mb: 1 }}>
        Since their last ride
      </Typography>
      {changes.length === 0 && calls.length === 0 && (
        <Typography sx={{ color: inkSoft }}>Nothing has changed.</Typography>
      )}
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0, display: "grid", gap: 1.25 }}>
        {calls.map(({ horse_id, horse_name, call }) => (
          <Box
            component="li"
            key={horse_id}
            sx={{ borderLeft: `4px solid ${call.call === "look-at" ? marigold : inkSoft}`, pl: 1.25 }}
          >
            <Box component={Link} to={`/horses/${horse_id}`} sx={{ color: ink, fontWeight: 700 }}>
              {horse_name}
            </Box>
            : <b>{call.call === "look-at" ? "look at it" : "leave it alone"}</b>
            <Typography sx={{ color: inkSoft, fontSize: "0.92rem" }}>{call.why[0]}</Typography>
          </Box>
        ))}
        {changes.map(({ horse_id, horse_name, change }) => (
          <Box
            component="li"
            key={horse_id + change.id}
            sx={{
              borderLeft: `4px solid ${change.to === "slipping" ? oxblood : change.to === "owned" ? sageDark : rule}`,
              pl: 1.25,
            }}
          >
            <Box component={Link} to={`/horses/${horse_id}`} sx={{ color: ink, fontWeight: 700 }}>
              {horse_name}
            </Box>
            : {change.name} <b>{statusWord(change.to).toLowerCase()}</b>
            <Typography sx={{ color: inkSoft, fontSize: "0.92rem" }}>
              {day(change.on)}. {change.why}
            </Typography>
          </Box>
        ))}
      </Box>
    </Panel>
  );
}
