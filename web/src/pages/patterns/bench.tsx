import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useReducer, useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { patternToday } from "../../api/queries";
import { newId } from "../../parts/ids";
import { useKeys } from "../../parts/keys";
import { about } from "../../parts/lengths";
import { LogPass } from "../../parts/log-pass";
import { OneOf } from "../../parts/one-of";
import { Panel } from "../../parts/panel";
import { FormTrouble, PageLoading } from "../../parts/states";
import { inkSoft, marigold, paper, rule } from "../../theme/tokens";
import { CloseUp } from "./close-up";
import { Costs } from "./costs";
import { Day } from "./day";
import { Drawing } from "./drawing";
import { draft, moved, opened, type Handle, type SetUp } from "./draft";
import { cornersOf } from "./fences";
import { Files } from "./files";
import { Passes } from "./passes";
import { GaveUp, StartWith } from "./fit-note";
import { PenForm } from "./pen-form";
import { PlaceFields } from "./place-fields";
import { SpeedStrip } from "./speed-strip";
import { tapeOf, TapeSheet } from "./tape-sheet";
import { usePlayback } from "./use-playback";
import { useRun } from "./use-run";

const tabs = [
  ["cost", "Costs"],
  ["today", "Today"],
  ["log", "Log"],
  ["passes", "Passes"],
  ["tape", "Tape"],
  ["pen", "Pen"],
] as const;
type Tab = (typeof tabs)[number][0];
const gaits: [Schemas["Gait"], string][] = [
  ["walk", "Walk"],
  ["jog", "Jog"],
  ["lope", "Lope"],
  ["run", "Run"],
];
/** How high the pen is drawn: what is left of the page beside the head and the speeds. */
const HIGH = { xs: 430, md: "max(430px, calc(100vh - 342px))" };
const FOOT = 0.3048;
const USUAL = { entry: 4 * FOOT, back: 4 * FOOT, exit: 3 * FOOT };
const NONE: SetUp = { start: { x: 0, y: 0 }, finish: { x: 0, y: 0 }, barrel_radius: 0.2921, barrels: [] };

/** One set-up on the bench: the drawing, and what is worked out of it. */
export function Bench(props: {
  ground: string;
  pen: Schemas["PenOut"];
  kept: Schemas["SetUpOut"] | null;
  horse: Schemas["HorseOut"];
  units: Schemas["Units"];
  onKept: (id: string) => void;
}) {
  const { ground, kept, horse, units } = props;
  const client = useQueryClient();
  const [state, send] = useReducer(draft, kept?.set_up ?? NONE, opened);
  const [looked, setLooked] = useState<Schemas["Pen"] | null>(null);
  const [tab, setTab] = useState<Tab>("cost");
  const [gait, setGait] = useState<Schemas["Gait"]>("run");
  const [picked, setPicked] = useState<Handle | null>(null);
  const [footing, setFooting] = useState(1);
  const [measuring, setMeasuring] = useState(false);
  const [shown, setShown] = useState<Schemas["PassOut"] | null>(null);
  const plan = useQuery(patternToday(horse.id)).data;
  const able = plan?.able.find((a) => a.gait === gait);
  const setUp = state.now;
  const empty = setUp.barrels.length === 0;
  const ability = able ? { ...able.horse, side_grip: able.horse.side_grip * footing } : null;
  const worked = useRun(empty ? null : setUp, ability, ground);
  const run = worked.data;
  const tape = useQuery({
    ...tapeOf(setUp, ground, props.pen.version),
    enabled: tab === "tape" && !empty,
  }).data;
  const { t, playing, play, stop } = usePlayback(run);
  const pen = (tab === "pen" && looked) || props.pen.pen;
  const fitted = useMutation({
    mutationFn: (lopsided: boolean) =>
      ask(
        api.POST("/api/patterns/fit", {
          body: {
            ground_id: ground,
            pocket: setUp.barrels[0]?.pocket ?? USUAL,
            first: setUp.barrels[0]?.turn ?? "right",
            lopsided,
          },
        }),
      ),
    onSuccess: (fit) => send({ do: "change", to: fit.set_up }),
  });
  const [id] = useState(() => kept?.id ?? newId());
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/set-ups/{id}", {
          params: { path: { id } },
          body: {
            version: kept?.version ?? null,
            ground_id: ground,
            name: kept?.name ?? nameOf(setUp),
            set_up: setUp,
          },
        }),
      ),
    onSuccess: async (now) => {
      await client.invalidateQueries({ queryKey: ["set-ups"] });
      props.onKept(now.id);
    },
  });
  // More than a few do not fit beside the pen.
  const closeUps = run !== undefined && setUp.barrels.length > 0 && setUp.barrels.length <= 4;
  const changed = !empty && JSON.stringify(setUp) !== JSON.stringify(kept?.set_up);
  const undo = () => send({ do: "undo" });
  const redo = () => send({ do: "redo" });
  useKeys({ u: undo, r: redo, p: () => (playing ? stop() : play()), m: () => setMeasuring(!measuring) });
  const turn = (to: SetUp, first: boolean) => send({ do: "drag", to, first });
  return (
    <Box
      sx={{
        display: "grid",
        gap: 2,
        gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) 470px" },
        "@media print": { display: "block" },
      }}
    >
      <Box
        className={tab === "tape" ? undefined : "no-print"}
        sx={{ minWidth: 0, display: "grid", gap: 1, alignContent: "start" }}
      >
        <Box className="no-print" sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center" }}>
          <Button variant="contained" onClick={() => (playing ? stop() : play())} disabled={!run}>
            {playing ? `${t?.toFixed(1)} s – stop` : "Play"}
          </Button>
          <OneOf label="Gait" of={gaits} picked={gait} onPick={setGait} />
          <Button variant="outlined" onClick={undo} disabled={state.before.length === 0}>
            Undo
          </Button>
          <Button variant="outlined" onClick={redo} disabled={state.after.length === 0}>
            Redo
          </Button>
          <Button
            variant={measuring ? "contained" : "outlined"}
            aria-pressed={measuring}
            onClick={() => setMeasuring(!measuring)}
          >
            Measure
          </Button>
        </Box>
        <Box
          sx={{
            display: "grid",
            gap: 1,
            gridTemplateColumns: {
              xs: "minmax(0, 1fr)",
              sm: closeUps ? "minmax(0, 1fr) 168px" : "minmax(0, 1fr)",
            },
            "& > :first-of-type": { height: HIGH },
          }}
        >
          <Box sx={{ background: paper, border: `1px solid ${rule}`, minWidth: 0 }}>
            {empty && tab !== "pen" ? (
              <Box sx={{ p: 3 }}>
                <StartWith onFit={() => fitted.mutate(false)} busy={fitted.isPending} />
              </Box>
            ) : (
              <Drawing
                pen={pen}
                fences={cornersOf(pen.outline)}
                setUp={setUp}
                run={empty ? undefined : run}
                units={units}
                picked={picked}
                t={t}
                measuring={measuring}
                track={shown?.track?.points ?? null}
                posts={
                  tab === "tape" && tape
                    ? [
                        ["A", tape.a],
                        ["B", tape.b],
                      ]
                    : []
                }
                onPick={setPicked}
                onMove={(what, to, first) => turn(moved(setUp, what, to), first)}
              />
            )}
          </Box>
          {closeUps && (
            <Box
              className="no-print"
              sx={{
                display: "flex",
                gap: 1,
                minWidth: 0,
                minHeight: 0,
                flexDirection: { xs: "row", sm: "column" },
                height: { xs: 150, sm: HIGH.md },
              }}
            >
              {setUp.barrels.map((_, n) => (
                <CloseUp
                  key={n}
                  setUp={setUp}
                  run={run}
                  n={n}
                  units={units}
                  picked={picked === n}
                  onPick={() => setPicked(n)}
                />
              ))}
            </Box>
          )}
        </Box>
        {run && !empty && <SpeedStrip run={run} units={units} t={t} track={shown?.track?.points ?? null} />}
      </Box>
      <Box
        sx={{
          minWidth: 0,
          display: "grid",
          gap: 1.5,
          alignContent: "start",
          gridTemplateColumns: "minmax(0, 1fr)",
        }}
      >
        {run && !empty && (
          <Typography className="no-print" component="p" sx={{ fontSize: "1.15rem" }}>
            <b>{run.seconds.toFixed(2)} s</b> · {about(units, run.length)} · {run.strides.toFixed(0)} strides
            <Box component="span" sx={{ display: "block", fontSize: "0.92rem", color: inkSoft }}>
              {able?.times
                ? `${horse.name} as ${able.times} times of its own make it, give or take ${(100 * (able.spread[0] ?? 0)).toFixed(0)} % of speed`
                : `As horses ${gait}; passes with times make it ${horse.name}'s own`}
            </Box>
          </Typography>
        )}
        {worked.error && !empty && <FormTrouble error={worked.error} />}
        {run?.cautions.map((caution) => (
          <Box key={caution} className="no-print" sx={{ borderLeft: `6px solid ${marigold}`, pl: 1.5 }}>
            {caution}
          </Box>
        ))}
        <Box className="no-print" sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center" }}>
          <Button variant="contained" disabled={!changed || save.isPending} onClick={() => save.mutate()}>
            Save
          </Button>
          <Button variant="outlined" disabled={fitted.isPending} onClick={() => fitted.mutate(false)}>
            Fit to the pen
          </Button>
          <Button variant="outlined" disabled={fitted.isPending} onClick={() => fitted.mutate(true)}>
            Fit unevenly
          </Button>
          {kept && !changed && <Files setUp={kept} />}
        </Box>
        <FormTrouble error={fitted.error ?? save.error} />
        {fitted.data && <GaveUp fit={fitted.data} />}
        <Box className="no-print">
          <OneOf label="On the bench" of={tabs} picked={tab} onPick={setTab} />
        </Box>
        <Panel name={tabs.find(([value]) => value === tab)?.[1] ?? ""}>
          {tab === "cost" && picked !== null && !empty && (
            <PlaceFields
              setUp={setUp}
              what={picked}
              units={units}
              onMove={(to) => send({ do: "change", to: moved(setUp, picked, to) })}
              onTurn={(to) => send({ do: "change", to })}
            />
          )}
          {tab === "cost" && run && ability && !empty && (
            <Costs
              setUp={setUp}
              run={run}
              stride={ability.stride}
              units={units}
              barrel={typeof picked === "number" ? picked : 0}
              footing={footing}
              onBarrel={setPicked}
              onFooting={setFooting}
              onChange={turn}
            />
          )}
          {tab === "today" && plan && (
            <Day
              name={horse.name}
              plan={plan}
              setUp={setUp}
              units={units}
              onUse={(to) => send({ do: "change", to })}
            />
          )}
          {tab === "log" &&
            (kept ? (
              <LogPass key={horse.id} horse={horse.id} setUp={kept} units={units} />
            ) : (
              <Typography>Save the set-up first: passes are logged over what is kept.</Typography>
            ))}
          {tab === "passes" && (
            <Passes horse={horse.id} units={units} shown={shown?.id ?? null} onShow={setShown} />
          )}
          {tab === "tape" && !empty && (
            <TapeSheet setUp={setUp} ground={ground} version={props.pen.version} units={units} />
          )}
          {tab === "pen" && (
            <PenForm
              key={props.pen.version}
              ground={ground}
              kept={props.pen}
              units={units}
              onLook={setLooked}
            />
          )}
          {!run && !empty && tab === "cost" && !worked.error && <PageLoading what="what a foot costs" />}
          {empty && (tab === "cost" || tab === "tape") && <Typography>Fit a pattern first.</Typography>}
        </Panel>
      </Box>
    </Box>
  );
}

/** What a new set-up is called: how far its first two barrels are apart. */
function nameOf(setUp: SetUp): string {
  const [a, b] = setUp.barrels;
  if (!a || !b) return `${setUp.barrels.length} barrels`;
  const feet = Math.round(Math.hypot(a.at.x - b.at.x, a.at.y - b.at.y) / FOOT);
  return `Barrels, ${feet} ft across, ${a.turn} first`;
}
