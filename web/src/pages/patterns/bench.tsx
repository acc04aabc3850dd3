import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useReducer, useState } from "react";
import type { Schemas } from "../../api/client";
import { patternToday } from "../../api/queries";
import { useKeys } from "../../parts/keys";
import { LogPass } from "../../parts/log-pass";
import { OneOf } from "../../parts/one-of";
import { OpenFile } from "../../parts/open-file";
import { Panel } from "../../parts/panel";
import { FormTrouble, PageLoading } from "../../parts/states";
import { passGaits } from "../../parts/words";
import { AbleFields } from "./able-fields";
import { Costs } from "./costs";
import { Day } from "./day";
import { draft, moved, opened, type Handle, type SetUp } from "./draft";
import { cornersOf } from "./fences";
import { Files } from "./files";
import { GaveUp, StartWith } from "./fit-note";
import { Outcome } from "./outcome";
import { Passes } from "./passes";
import { PenForm } from "./pen-form";
import { PlaceFields } from "./place-fields";
import { RoomFields } from "./room-fields";
import { Stage } from "./stage";
import { tapeOf, TapeSheet } from "./tape-sheet";
import { useKept } from "./use-kept";
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
const NONE: SetUp = { start: { x: 0, y: 0 }, finish: { x: 0, y: 0 }, barrel_radius: 0.2921, barrels: [] };

type Props = {
  /** What the set-up goes by, kept or not yet. */
  id: string;
  ground: string;
  pen: Schemas["PenOut"];
  kept: Schemas["SetUpOut"] | null;
  horse: Schemas["HorseOut"];
  units: Schemas["Units"];
  onKept: (id: string) => void;
};

/** All that is known of the set-up on the bench, and what can be done to it. */
function useBench(props: Props) {
  const { ground, kept } = props;
  const [state, send] = useReducer(draft, kept?.set_up ?? NONE, opened);
  const [gait, setGait] = useState<Schemas["Gait"]>("run");
  const [footing, setFooting] = useState(1);
  const [typed, setTyped] = useState<Partial<Schemas["HorseAbility"]>>({});
  const setUp = state.now;
  const empty = setUp.barrels.length === 0;
  const change = (to: SetUp) => send({ do: "change", to });
  const plan = useQuery(patternToday(props.horse.id)).data;
  const able = plan?.able.find((a) => a.gait === gait);
  const known = able ? { ...able.horse, ...typed } : null;
  const ability = known ? { ...known, side_grip: known.side_grip * footing } : null;
  const worked = useRun(empty ? null : setUp, ability, ground);
  return {
    setUp,
    empty,
    plan,
    able,
    ability,
    worked,
    run: empty ? undefined : worked.data,
    gait,
    setGait: (to: Schemas["Gait"]) => {
      setGait(to);
      setTyped({});
    },
    known,
    typed,
    setTyped,
    footing,
    setFooting,
    change,
    drag: (to: SetUp, first: boolean) => send({ do: "drag", to, first }),
    undo: () => send({ do: "undo" }),
    redo: () => send({ do: "redo" }),
    mayUndo: state.before.length > 0,
    mayRedo: state.after.length > 0,
    keep: useKept({ ...props, setUp, onChange: change }),
  };
}

/** One set-up on the bench: the drawing, and what is worked out of it. */
export function Bench(props: Props) {
  const { ground, kept, horse, units } = props;
  const bench = useBench(props);
  const { setUp, empty, run, keep } = bench;
  const [looked, setLooked] = useState<Schemas["Pen"] | null>(null);
  const [tab, setTab] = useState<Tab>("cost");
  const [picked, setPicked] = useState<Handle | null>(null);
  const [measuring, setMeasuring] = useState(false);
  const [shown, setShown] = useState<Schemas["PassOut"][]>([]);
  const { t, playing, play, stop } = usePlayback(run);
  const onTape = tapeOf(setUp, ground, props.pen.version);
  const tape = useQuery({ ...onTape, enabled: tab === "tape" && !empty }).data;
  const pen = (tab === "pen" && looked) || props.pen.pen;
  const playOrStop = () => (playing ? stop() : play());
  const measure = () => setMeasuring(!measuring);
  useKeys({ u: bench.undo, r: bench.redo, p: playOrStop, m: measure });
  return (
    <Box
      sx={{
        display: "grid",
        gap: 2,
        gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) 470px" },
        "@media print": { display: "block" },
        // The pen stays in sight beside a long list.
        "& > :first-of-type": { position: { md: "sticky" }, top: 10, alignSelf: "start" },
        "& > *": {
          minWidth: 0,
          display: "grid",
          gap: 1.25,
          alignContent: "start",
          gridTemplateColumns: "minmax(0, 1fr)",
        },
      }}
    >
      <Box className={tab === "tape" ? undefined : "no-print"}>
        <Box className="no-print" sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center" }}>
          <Button variant="contained" onClick={playOrStop} disabled={!run}>
            {playing ? `${t?.toFixed(1)} s – stop` : "Play"}
          </Button>
          <OneOf label="Gait" of={passGaits} picked={bench.gait} onPick={bench.setGait} />
          <Button variant="outlined" onClick={bench.undo} disabled={!bench.mayUndo}>
            Undo
          </Button>
          <Button variant="outlined" onClick={bench.redo} disabled={!bench.mayRedo}>
            Redo
          </Button>
          <Button variant={measuring ? "contained" : "outlined"} aria-pressed={measuring} onClick={measure}>
            Measure
          </Button>
        </Box>
        <Stage
          instead={
            empty && tab !== "pen" ? (
              <StartWith onFit={() => keep.fit.mutate(false)} busy={keep.fit.isPending} />
            ) : null
          }
          pen={pen}
          fences={cornersOf(pen.outline)}
          setUp={setUp}
          run={run}
          units={units}
          picked={picked}
          t={t}
          stride={bench.ability?.stride ?? 1}
          measuring={measuring}
          tracks={shown.flatMap((pass) => (pass.track ? [pass.track.points] : []))}
          posts={tab === "tape" && tape ? Object.entries({ A: tape.a, B: tape.b }) : []}
          onPick={setPicked}
          onMove={(what, to, first) => bench.drag(moved(setUp, what, to), first)}
        />
      </Box>
      <Box>
        {run && (
          <Outcome
            run={run}
            able={bench.able}
            typed={Object.keys(bench.typed).length > 0}
            name={horse.name}
            units={units}
          />
        )}
        {!empty && <FormTrouble error={bench.worked.error} />}
        <Keep keep={keep} kept={kept} units={units} />
        <Box className="no-print">
          <OneOf label="On the bench" of={tabs} picked={tab} onPick={setTab} />
        </Box>
        <Panel name={tabs.find(([value]) => value === tab)?.[1] ?? ""}>
          {tab === "cost" && <CostTab bench={bench} picked={picked} units={units} onPick={setPicked} />}
          {tab === "today" && bench.plan && (
            <Day name={horse.name} plan={bench.plan} setUp={setUp} units={units} onUse={bench.change} />
          )}
          {tab === "log" &&
            (kept ? (
              <LogPass key={horse.id} horse={horse.id} setUp={kept} units={units} />
            ) : (
              <Typography>Save the set-up first: passes are logged over what is kept.</Typography>
            ))}
          {tab === "passes" && <Passes horse={horse.id} units={units} shown={shown} onShow={setShown} />}
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
          {empty && (tab === "cost" || tab === "tape") && <Typography>Fit a pattern first.</Typography>}
        </Panel>
      </Box>
    </Box>
  );
}

/** Save, the fit, and files. */
function Keep(props: {
  keep: ReturnType<typeof useKept>;
  kept: Schemas["SetUpOut"] | null;
  units: Schemas["Units"];
}) {
  const { keep, kept, units } = props;
  const { fit, open, save, changed } = keep;
  const [asked, setAsked] = useState(false);
  return (
    <>
      <Box className="no-print" sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center" }}>
        <Button variant="contained" disabled={!changed || save.isPending} onClick={() => save.mutate()}>
          Save
        </Button>
        <Button variant="outlined" disabled={fit.isPending} onClick={() => fit.mutate(false)}>
          Fit to the pen
        </Button>
        <Button variant="outlined" disabled={fit.isPending} onClick={() => fit.mutate(true)}>
          Fit unevenly
        </Button>
        <Button variant="outlined" aria-expanded={asked} onClick={() => setAsked(!asked)}>
          Room to leave
        </Button>
        {kept && !changed && <Files setUp={kept} />}
        <OpenFile name="Open a file" accept=".json,application/json" onOpen={(file) => open.mutate(file)} />
      </Box>
      {asked && <RoomFields room={keep.room} units={units} onType={keep.setRoom} />}
      <FormTrouble error={fit.error ?? save.error ?? open.error} />
      {fit.data && <GaveUp fit={fit.data} />}
    </>
  );
}

/** Where the picked marker stands, and what a foot costs. */
function CostTab(props: {
  bench: ReturnType<typeof useBench>;
  picked: Handle | null;
  units: Schemas["Units"];
  onPick: (what: Handle) => void;
}) {
  const { bench, picked, units } = props;
  if (bench.empty) return null;
  if (!bench.run || !bench.ability)
    return bench.worked.error ? null : <PageLoading what="what a foot costs" />;
  return (
    <>
      {picked !== null && (
        <PlaceFields
          key={picked}
          setUp={bench.setUp}
          what={picked}
          units={units}
          onMove={(to) => bench.change(moved(bench.setUp, picked, to))}
          onTurn={bench.change}
        />
      )}
      <Costs
        setUp={bench.setUp}
        run={bench.run}
        stride={bench.ability.stride}
        units={units}
        barrel={typeof picked === "number" ? picked : 0}
        footing={bench.footing}
        onBarrel={props.onPick}
        onFooting={bench.setFooting}
        onChange={bench.drag}
      />
      {bench.known && (
        <AbleFields known={bench.known} typed={bench.typed} units={units} onType={bench.setTyped} />
      )}
    </>
  );
}
