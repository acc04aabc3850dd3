import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import GlobalStyles from "@mui/material/GlobalStyles";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, ask } from "../../api/client";
import { today as todayQuery, week as weekQuery } from "../../api/queries";
import { useKeys } from "../../parts/keys";
import { useMe } from "../../parts/me";
import { Empty, FormTrouble, PageLoading, PageTrouble } from "../../parts/states";
import { day as dayWords } from "../../parts/words";
import { inkSoft, marigold, oxblood, sageDark } from "../../theme/tokens";
import { AwayForm } from "./away-form";
import { Calendars } from "./calendars";
import { Detail } from "./detail";
import { Line, Planning, Stamp, Step } from "./head";
import { Grid, type Lane, type Spot } from "./grid";
import { HoursForm } from "./hours-form";
import { nextOf, putIn, shifted, swapped } from "./moves";
import { Tray } from "./tray";
import { usePlan } from "./use-plan";
import { keyOf, useWeek, type Ride } from "./use-week";

const later = (date: string, days: number) =>
  new Date(Date.parse(`${date}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

/** Pixels of a letter page on its side that the grid has. */
const WALL_HEIGHT = 540;

/** Printed, the week is one page on its side: the grid, and nothing that is pressed. */
const onTheWall = {
  "@media print": {
    "@page": { size: "letter landscape", margin: "10mm" },
    "body *": { printColorAdjust: "exact" },
    "nav, main .MuiButton-root, main .no-print": { display: "none !important" },
    "#root > div": { display: "block !important" },
    main: { padding: "0 !important" },
    // The grid has room for all of its rows: it shrinks to the page, however many rides there are.
    "[role=region]": { overflow: "visible !important", zoom: "var(--on-the-wall, 0.7)" },
  },
} as const;

const monthDay = new Intl.DateTimeFormat("en-US", { month: "long", day: "numeric", timeZone: "UTC" });
const shortDay = (date: string) => `Week of ${monthDay.format(new Date(`${date}T00:00:00Z`))}`;

/** The week: who rides whom, when, where, on what. */
export function Week() {
  const me = useMe();
  const { day = me.today } = useParams();
  const client = useQueryClient();
  const navigate = useNavigate();
  const { query, ...edit } = useWeek(day);
  const planner = usePlan(day, { rides: edit.preview, done: edit.planned });
  const [by, setBy] = useState<Lane>("rider");
  const [selected, setSelected] = useState<string | null>(null);
  const [swap, setSwap] = useState<string | null>(null);
  const [carrying, setCarrying] = useState<string | null>(null);
  const [away, setAway] = useState(false);
  const [calendars, setCalendars] = useState(false);
  const [settings, setSettings] = useState(false);
  const week = query.data;
  const mayChange = me.role === "trainer";
  const publish = useMutation({
    mutationFn: async () =>
      ask(
        api.POST("/api/weeks/{day}/publish", {
          params: { path: { day } },
          body: { version: await edit.version() },
        }),
      ),
    onSuccess: (published) => {
      client.setQueryData(weekQuery(day).queryKey, published);
      void client.invalidateQueries({ queryKey: todayQuery.queryKey });
    },
  });
  const run = async (keep: "locked" | "all") => {
    setSelected(null);
    edit.begin();
    const version = await edit.version();
    if (!(await planner.run(version, keep))) edit.again();
  };
  useKeys({
    u: () => mayChange && edit.undo(),
    Escape: () => (setSelected(null), setSwap(null), setCarrying(null)),
    "<": () => week && navigate(`/week/${later(week.start, -7)}`),
    ">": () => week && navigate(`/week/${later(week.start, 7)}`),
  });
  // However many rides there are, the grid is one page: what a letter page on its side has room for under the title.
  useEffect(() => {
    const grid = document.querySelector('[aria-label="The week"]');
    const zoom = Math.min(0.7, WALL_HEIGHT / Math.max(1, grid?.scrollHeight ?? 1));
    document.documentElement.style.setProperty("--on-the-wall", String(zoom));
  }, [week?.rides, by]);
  // A ride that moved by a key keeps the focus, wherever it went.
  useEffect(() => {
    if (selected) document.querySelector<HTMLElement>(`[data-ride="${CSS.escape(selected)}"]`)?.focus();
  }, [selected, week?.rides]);

  if (query.error && !week)
    return (
      <PageTrouble
        title="The week did not come"
        detail={query.error.message}
        again={() => void query.refetch()}
      />
    );
  if (!week) return <PageLoading what="the week" />;

  const ride = week.rides.find((r) => keyOf(r) === selected);
  const replace = (old: Ride, now: Ride) => {
    edit.change(week.rides.map((r) => (r === old ? now : r)));
    setSelected(keyOf(now));
  };
  const on = (r: Ride) => {
    const work = week.works.find((w) => w.id === r.work);
    return {
      lock: () => replace(r, { ...r, locked: !r.locked }),
      drop: () => (edit.change(week.rides.filter((x) => x !== r)), setSelected(null)),
      swap: () => setSwap(swap ? null : keyOf(r)),
      later: (slots: number) => replace(r, shifted(week, r, 0, slots)),
      day: (days: number) => replace(r, shifted(week, r, days, 0)),
      rider: () =>
        replace(r, {
          ...r,
          rider: nextOf(
            week.riders.map((x) => x.id),
            r.rider,
          ),
        }),
      place: () => replace(r, { ...r, place: nextOf(work?.places ?? [], r.place) }),
    };
  };
  const select = (key: string) => {
    const other = week.rides.find((r) => keyOf(r) === key);
    const one = week.rides.find((r) => keyOf(r) === swap);
    if (one && other && one !== other) {
      const [a, b] = swapped(one, other);
      edit.change(week.rides.map((r) => (r === one ? a : r === other ? b : r)));
      setSwap(null);
      setSelected(keyOf(a));
    } else setSelected(key);
  };
  const key = (r: Ride, event: React.KeyboardEvent) => {
    if (!mayChange || r.ridden) return;
    const does = on(r);
    const acts: Record<string, () => void> = {
      ArrowLeft: () => does.day(-1),
      ArrowRight: () => does.day(1),
      ArrowUp: () => does.later(-1),
      ArrowDown: () => does.later(1),
      l: does.lock,
      r: does.rider,
      e: does.place,
      x: does.swap,
      Delete: does.drop,
      Backspace: does.drop,
    };
    const act = acts[event.key];
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    setSelected(keyOf(r));
    act();
  };
  const put = ({ day: on, lane }: Spot) => {
    const where = by === "rider" ? { rider: lane } : { place: lane as Ride["place"] };
    const carried = week.rides.find((r) => keyOf(r) === carrying);
    const made = carried
      ? { ...carried, day: on }
      : carrying && putIn(week, carrying, on, by === "rider" ? lane : null);
    setCarrying(null);
    if (!made || carried?.ridden || on < week.first_open) return;
    const now = { ...made, ...where };
    edit.change(carried ? week.rides.map((r) => (r === carried ? now : r)) : [...week.rides, now]);
    setSelected(keyOf(now));
  };
  const planned = week.rides.some((r) => !r.ridden);
  const over = week.first_open > 6;
  const delta = edit.scoreBefore === null ? 0 : week.judged.score - edit.scoreBefore;
  return (
    <>
      <GlobalStyles styles={onTheWall} />
      <Box sx={{ display: "flex", alignItems: "end", gap: 1.5, flexWrap: "wrap", mb: 1.5 }}>
        <Box sx={{ flex: "1 0 100%", display: "flex", alignItems: "center", gap: 2, flexWrap: "wrap" }}>
          <Box sx={{ display: "flex", alignItems: "center" }}>
            <Step name="The week before" to={later(week.start, -7)}>
              ‹
            </Step>
            <Typography variant="h1">{shortDay(week.start)}</Typography>
            <Step name="The week after" to={later(week.start, 7)}>
              ›
            </Step>
          </Box>
          <Box sx={{ display: "flex", gap: 1.5, color: inkSoft, alignItems: "center", flexWrap: "wrap" }}>
            <Stamp state={week.state} />
            <span>
              {week.rides.length} rides
              {!planner.progress && `, score ${week.judged.score}`}
              {!planner.progress && delta !== 0 && ` (${delta > 0 ? "+" : "−"}${Math.abs(delta)})`}
            </span>
          </Box>
        </Box>
        <Button
          variant="outlined"
          aria-pressed={by === "place"}
          onClick={() => setBy(by === "rider" ? "place" : "rider")}
        >
          {by === "rider" ? "By place" : "By rider"}
        </Button>
        <Button component={Link} to="/week/appointments" variant="text">
          Appointments
        </Button>
        <Button component={Link} to="/week/balance" variant="text">
          Balance
        </Button>
        {mayChange && !over && (
          <>
            <Button variant="text" onClick={() => setSettings(true)}>
              Hours
            </Button>
            <Button variant="text" onClick={() => setCalendars(true)}>
              Calendars
            </Button>
            <Button variant="outlined" onClick={() => setAway(true)}>
              Someone is off
            </Button>
            <Button variant="outlined" disabled={!edit.mayUndo} onClick={edit.undo}>
              Undo (U)
            </Button>
            {planned && (
              <Button variant="outlined" disabled={!!planner.progress} onClick={() => void run("all")}>
                Mend
              </Button>
            )}
            <Button
              variant={planned ? "outlined" : "contained"}
              disabled={!!planner.progress}
              onClick={() => void run("locked")}
            >
              {planned ? "Plan anew" : "Plan the week"}
            </Button>
            {week.state === "draft" && planned && (
              <Button variant="contained" disabled={publish.isPending} onClick={() => publish.mutate()}>
                Publish
              </Button>
            )}
          </>
        )}
      </Box>
      {planner.progress && <Planning progress={planner.progress} onStop={planner.stop} />}
      <FormTrouble error={planner.error ?? publish.error} />
      {edit.trouble && (
        <Line edge={oxblood}>
          <span>
            {edit.trouble.changedMeanwhile
              ? "Someone else changed this week meanwhile. What you see is not kept."
              : `Not kept: ${edit.trouble.error.message}`}
          </span>
          <Button variant="outlined" onClick={edit.again}>
            Show it as it is
          </Button>
        </Line>
      )}
      {week.warnings.map((w) => (
        <Line key={w.show + w.horse_id} edge={marigold}>
          <span>
            <b>
              {week.horses.find((h) => h.id === w.horse_id)?.name}, {w.show} on {dayWords(w.day)}:
            </b>{" "}
            {w.says}
          </span>
        </Line>
      ))}
      {week.judged.breaks.map((b) => (
        <Line key={b.says} edge={oxblood}>
          <span>
            <b>Breaks a rule:</b> {b.says}
          </span>
        </Line>
      ))}
      {planner.moved && (
        <Line edge={sageDark}>
          <details open>
            <summary>
              <b>{planner.moved.length > 0 ? `${planner.moved.length} moved` : "Nothing had to move"}</b>
            </summary>
            <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
              {planner.moved.map((m) => (
                <li key={m}>{m}</li>
              ))}
            </Box>
          </details>
          <Button onClick={planner.forget}>Seen</Button>
        </Line>
      )}
      {week.rides.length === 0 && !planner.progress && (
        <Empty>
          {mayChange
            ? "Nothing is planned yet. Plan the week: it takes a second or two, and nobody sees it before you publish it."
            : "Nothing is published for this week yet."}
        </Empty>
      )}
      <Grid
        week={week}
        by={by}
        selected={selected}
        carrying={mayChange && !!carrying}
        onSelect={select}
        onDrag={setCarrying}
        onPut={put}
        onKey={key}
      />
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
          <Detail week={week} ride={ride} mayChange={mayChange} swapping={swap === selected} on={on(ride)} />
        ) : (
          <Typography sx={{ color: inkSoft, p: 1 }}>
            Pick a ride to see why it is there. ← → moves it a day, ↑ ↓ a quarter of an hour; L locks it, R
            gives it to another rider, X swaps it, Del drops it.
          </Typography>
        )}
        {week.rides.length > 0 && !planner.progress && (
          <Tray week={week} mayChange={mayChange && !over} carrying={carrying} onTake={setCarrying} />
        )}
      </Box>
      {settings && <HoursForm week={week} onClose={() => setSettings(false)} />}
      {calendars && <Calendars week={week} onClose={() => setCalendars(false)} />}
      {away && (
        <AwayForm
          week={week}
          onClose={() => setAway(false)}
          onDone={() => {
            setAway(false);
            void query.refetch().then(() => (planned ? run("all") : undefined));
          }}
        />
      )}
    </>
  );
}
