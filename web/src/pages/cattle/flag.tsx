import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { flagProgramme, today } from "../../api/queries";
import { NextBar } from "../../parts/next-bar";
import { Panel } from "../../parts/panel";
import { Empty, PageLoading, PageTrouble } from "../../parts/states";
import { many } from "../../parts/words";
import { inkSoft, oxblood, slab } from "../../theme/tokens";
import { EndPlot } from "./end-plot";
import { Rail } from "./rail";
import { Remote } from "./remote";
import { StopPads } from "./stop-pads";
import { useFlagDrive } from "./use-flag-drive";
import { useProgramme } from "./use-programme";

const stateSays = {
  stands: "The flag stands.",
  goes: "The flag goes.",
  "at-end": "The flag is at the end of its rail.",
  "link-lost": "It heard nothing for too long and stopped by itself.",
  emergency: "Stopped. It takes no order until it is let go.",
} as const;

/** The flag: where it is, by programme or by hand, and how the stops come out by end. */
export function Flag() {
  const day = useQuery(today);
  const [asked, setAsked] = useSearchParams();
  if (day.error)
    return (
      <PageTrouble title="Couldn't load today" detail={day.error.message} again={() => void day.refetch()} />
    );
  if (!day.data) return <PageLoading what="today" />;
  const rides = day.data.rides.filter((r) => r.ride.state !== "closed");
  const ride =
    rides.find((r) => r.ride.id === asked.get("ride")) ??
    rides.find((r) => /flag/i.test(r.line.main?.name ?? "")) ??
    rides[0];
  if (!ride) return <Empty>Nobody is ridden today: begin a ride, and work the flag on it.</Empty>;
  return (
    <Box sx={{ display: "grid", gap: 2, maxWidth: 1120 }}>
      <TextField
        select
        size="small"
        label="Horse"
        value={ride.ride.id}
        onChange={(e) => setAsked({ view: "flag", ride: e.target.value })}
        sx={{ maxWidth: 280 }}
      >
        {rides.map((r) => (
          <MenuItem key={r.ride.id} value={r.ride.id}>
            {r.ride.horse_name}
          </MenuItem>
        ))}
      </TextField>
      <Work key={ride.ride.id} ride={ride.ride.id} horse={ride.ride.horse_name} />
    </Box>
  );
}

const NO_MOVES: never[] = [];

function Work({ ride, horse }: { ride: string; horse: string }) {
  const work = useQuery(flagProgramme(ride));
  const drive = useFlagDrive();
  const programme = useProgramme(work.data?.moves ?? NO_MOVES, drive);
  if (work.error)
    return (
      <PageTrouble
        title="Couldn't load the programme"
        detail={work.error.message}
        again={() => void work.refetch()}
      />
    );
  if (!work.data) return <PageLoading what="the programme" />;
  const { moves, ends, stops, speed, advice } = work.data;
  const running = programme.at === null ? undefined : moves[programme.at];
  const state = drive.lost ? "link-lost" : (drive.reading?.state ?? null);
  return (
    <>
      <Panel name="The line" tight>
        <Rail half={drive.half} at={drive.reading?.at ?? null} next={running?.to ?? null} state={state} />
        <Box
          role="status"
          sx={{
            fontWeight: 650,
            color: drive.cut || state === "link-lost" || state === "emergency" ? oxblood : undefined,
          }}
        >
          {drive.cut
            ? "No link to the flag: it stops by itself."
            : state
              ? stateSays[state]
              : "Looking for the flag."}{" "}
          <Box component="span" sx={{ color: inkSoft, fontWeight: 400 }}>
            A simulated flag, until a real one is put in.
          </Box>
        </Box>
        <Remote drive={drive} speed={speed} onTake={() => programme.at !== null && programme.stop()} />
      </Panel>
      <Box
        sx={{
          display: "grid",
          gap: 2,
          gridTemplateColumns: { xs: "1fr", md: "1fr 1fr" },
          alignItems: "start",
        }}
      >
        <Panel by="programme" tight>
          <Box sx={{ display: "flex", gap: 1.5, alignItems: "center", flexWrap: "wrap", mb: 1 }}>
            <Typography variant="h2" id="programme" sx={{ flex: 1 }}>
              Work {work.data.work} of {horse}
            </Typography>
            {running ? (
              <Button variant="contained" onClick={programme.stop}>
                Stop the programme
              </Button>
            ) : (
              <Button
                variant="contained"
                disabled={drive.cut || state === "emergency"}
                onClick={programme.start}
              >
                Start the programme
              </Button>
            )}
          </Box>
          <Typography role="status" sx={{ minHeight: 48 }}>
            {running && programme.at !== null ? (
              <>
                <Box component="span" sx={{ fontFamily: slab, fontWeight: 700, fontSize: "1.2rem" }}>
                  {programme.at + 1} of {moves.length}.
                </Box>{" "}
                {programme.stood
                  ? running.remedy
                    ? `It waits. Here: ${running.remedy}.`
                    : "It waits: sit still, and let the flag pull it."
                  : `It goes ${running.to < (drive.reading?.at ?? 0) ? "left" : "right"}.`}
              </>
            ) : (
              `${many(moves.length, "move")} at ${speed.toFixed(0)} ft/s, in an order that nobody can guess. A few good stops are worth more than many tired ones.`
            )}
          </Typography>
          {advice && <NextBar advice={advice} />}
          <StopPads
            ride={ride}
            half={drive.half}
            at={drive.reading?.at ?? null}
            still={drive.reading?.speed === 0}
          />
        </Panel>
        <Panel by="stops" tight>
          <Typography variant="h2" id="stops" sx={{ mb: 1 }}>
            Past and short by end
          </Typography>
          <Box sx={{ display: "grid", gap: 1.5, gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" } }}>
            {ends
              .filter((habit) => habit.end !== "middle" || habit.stops > 0)
              .map((habit) => (
                <EndPlot key={habit.end} habit={habit} stops={stops} />
              ))}
          </Box>
        </Panel>
      </Box>
      <Typography sx={{ color: inkSoft, fontSize: "0.95rem" }}>
        Boots on in front, and keep it short. When it stopped by itself and right: quit, step off, loosen the
        cinch.
      </Typography>
    </>
  );
}
