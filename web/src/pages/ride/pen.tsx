import Box from "@mui/material/Box";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useReducer, useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { plan as planQuery, ride as rideQuery, rideChanged } from "../../api/queries";
import { put, useOutbox, waitingFor } from "../../offline/outbox";
import { useKeys } from "../../parts/keys";
import { useCattleLog } from "../../parts/cattle-log";
import { useExerciseLog } from "../../parts/exercise-log";
import { newId } from "../../parts/ids";
import { OutboxNote } from "../../parts/outbox-note";
import type { Count } from "../../parts/counts";
import type { Side } from "../../parts/words";
import { faces } from "../../theme/tokens";
import { Big } from "./big";
import { CountTray } from "./count-tray";
import { FaultRow, toggled } from "./fault-row";
import { countItem, type Counted } from "./counted";
import { Marks } from "./marks";
import type { Now } from "./hands";
import { ModePads } from "./mode-pads";
import { isExercise, modesOf, type Mode } from "./modes";
import { PatternBar } from "./pattern-bar";
import { PenCoach } from "./pen-coach";
import { PenHead } from "./pen-head";
import { penLayout } from "./pen-layout";
import { PenSheets, type Sheet } from "./pen-sheets";
import { PlanStrip } from "./plan-strip";
import { Reminder } from "./reminder";
import {
  begin,
  correctItem,
  finished,
  lastLogged,
  logItem,
  newSet,
  step,
  type Draft,
  type Rep,
} from "./session";
import { LastTime } from "./last-time";
import { QuickHands } from "./quick-hands";
import { repsOf, type TappedSet } from "./tapped-set";
import { StepBar } from "./step-bar";
import { ShareBar } from "./share-bar";
import { TackRow } from "./tack-row";
import { useFace } from "./use-face";
import { useRideFigure } from "./use-ride-figure";
import { useWorn } from "./use-worn";
import { outcomesOf, Tray } from "./tray";

type Props = {
  ride: Schemas["RideDetail"];
  book: Schemas["CurriculumOut"];
  standing: Schemas["StandingOut"];
  start: Schemas["StepOut"];
};

/** Another device may log into the same ride: how often its reps are asked for. */
const MERGE_MS = 2_500;

/** In the pen: pads, what each ask came to, the last reps, the coach, and the plan. */
export function Pen({ ride, book, standing, start }: Props) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [session, send] = useReducer(step, null, () => begin(ride, waitingFor(ride.id)));
  const [current, setCurrent] = useState(start);
  const [face, setFace] = useFace();
  const [sheet, setSheet] = useState<Sheet>(null);
  // Of a count: the faults tapped for the next one, and the one that is put right.
  const [faults, setFaults] = useState<string[]>([]);
  const [fixing, setFixing] = useState<string | null>(null);
  const [now, setNow] = useState<Now>({ riderId: null, riderName: ride.rider_name, cow: null });
  // The last set that was tapped, which the next is likely to be like.
  const [tapped, setTapped] = useState<TappedSet | null>(null);
  const { waiting } = useOutbox();
  const plan = useQuery(planQuery(ride.id)).data;
  const tack = useWorn(ride, plan?.gear ?? []);
  const theirs = useQuery({ ...rideQuery(ride.id), refetchInterval: MERGE_MS, staleTime: MERGE_MS }).data;
  useEffect(() => {
    if (theirs) send({ do: "merge", ride: theirs, waiting: waitingFor(theirs.id) });
  }, [theirs]);
  const draft = session.drafts[0];
  const rung = book.rungs.find((r) => r.id === (draft?.rung ?? current.rung));
  const counts = rung && !draft ? rung.measure.kind !== "reps" : false;
  const onCattle = book.rungs.some((r) => r.id === current.rung && r.cattle);
  const cattle = useCattleLog(ride.id, onCattle);
  const exercises = useExerciseLog(ride.id);
  const figure = useRideFigure(ride);
  const modes = modesOf({ rung, testsBrace: (tack.log.seen?.orders.length ?? 0) > 0, figure });
  const [wanted, setMode] = useState<Mode | null>(null);
  // A figure that was brought along is called, unless it is a course to be tried.
  const brought = figure && (modes.find(([mode]) => mode === "calls")?.[0] ?? null);
  const [left, setLeft] = useState(false);
  const mode = modes.some(([mode]) => mode === wanted) ? wanted : left ? null : brought;
  const turning = mode === "cattle";
  const apart = mode !== null;
  const around = { riderId: now.riderId, cow: onCattle ? now.cow : null };
  const { riderId, cow } = around;

  const keep = useCallback(
    (rep: Rep) => {
      send({ do: "keep", rep });
      put(rep.version === 1 ? logItem(ride.id, rep) : correctItem(ride.id, rep));
    },
    [ride.id],
  );
  const fill = (change: Partial<Draft>) => {
    if (!draft) return;
    const next = { ...draft, ...change };
    const rep = finished(session, next);
    // A new rep is done as soon as it has outcome and weight; a correction, as soon as something in it is changed.
    if (rep && !("faults" in change && !draft.of) && !("seconds" in change && !draft.of)) {
      keep(rep);
      if (!draft.of) send({ do: "drop" });
      else send({ do: "open", rep });
    } else send({ do: "fill", with: change });
  };
  const remove = (rep: Rep) => keep({ ...rep, removed: true, version: rep.version + 1 });
  const onAsk = useCallback(
    (side: Side, seconds: number | null) => {
      const at = new Date(Date.now() - (seconds ?? 0) * 1000).toISOString();
      send({
        do: "ask",
        side,
        rung: current.rung,
        gait: current.gait,
        seconds,
        around: { riderId, cow },
        at,
      });
    },
    [current, riderId, cow],
  );
  const keepCount = (counted: Counted) => {
    send({ do: "count", counted });
    put(countItem(ride.id, counted));
  };
  const countAt = (at: Schemas["StepOut"], side: Side, count: Count) => {
    const set = newSet(session, at, side, around);
    keepCount({ set, count, faults, askedAt: new Date().toISOString(), removed: false, version: 1 });
    setFaults([]);
    return set.id;
  };
  const onCount = (side: Side, count: Count) => countAt(current, side, count);
  const onCountFor = (rung: string, count: Count) => {
    const counted = book.rungs.find((r) => r.id === rung && r.measure.kind === count.kind);
    const at = counted && book.steps.find((s) => s.rung === rung);
    return at ? countAt(at, at.sides[0] ?? "both", count) : newId();
  };
  const logSet = (tapped: TappedSet) => {
    const reps = repsOf(session, current, tapped, around, new Date().toISOString());
    reps.forEach(keep);
    setTapped(tapped);
    setSheet(null);
  };
  const latest = exercises.events.at(-1);
  const undo = () => {
    const last = lastLogged(session);
    if (latest && isExercise(mode)) {
      // What was counted with it goes by the same id.
      const with_ = session.counted.find((c) => c.set.id === latest.id && !c.removed);
      if (with_) keepCount({ ...with_, removed: true, version: with_.version + 1 });
      return exercises.takeBack(latest);
    }
    if (draft) send({ do: "drop" });
    else if (fixing) setFixing(null);
    else if (last && "rep" in last) remove(last.rep);
    else if (last) keepCount({ ...last.counted, removed: true, version: last.counted.version + 1 });
  };
  const leave = () => {
    rideChanged(client, ride.horse_id);
    void navigate("/");
  };
  const pick = (step: Schemas["StepOut"]) => {
    setCurrent(step);
    setFaults([]);
    setFixing(null);
  };
  const goTo = (id: string) => {
    const to = book.steps.find((s) => s.id === id);
    if (to) pick(to);
  };
  const choose = (key: string) => {
    const choice = draft && rung && outcomesOf(rung).find((c) => c.key.toLowerCase() === key);
    if (choice) fill({ outcome: choice.outcome, missing: choice.missing });
  };
  const weightKeys = Object.fromEntries(
    book.weights.map((w, n) => [String(n + 1), () => fill({ weight: w.weight })]),
  );
  useKeys({
    g: () => choose("g"),
    t: () => choose("t"),
    y: () => choose("y"),
    n: () => choose("n"),
    ...weightKeys,
    u: undo,
    c: () => setSheet("close"),
    p: () => plan && setSheet("plan"),
    h: () => setSheet("hand-over"),
    s: () => counts || setSheet("set"),
    "?": () => setSheet("keys"),
    Escape: () => (draft ? send({ do: "drop" }) : setFixing(null)),
  });

  const look = faces[face];
  const here = (set: Schemas["SetIn"]) => set.rung === current.rung && set.gait === current.gait;
  const kept = session.reps.filter((r) => !r.removed);
  const counted = session.counted.filter((c) => !c.removed);
  const fixed = counted.find((c) => c.set.id === fixing);
  const logged = [...kept, ...counted];
  const all = logged.length;
  // One fault more, or something put right, is answered anew.
  const changes = logged.reduce((n, r) => n + r.faults.length + r.version - 1, 0);
  const mine = waiting.filter((i) => i.ride === ride.id).length;
  const stepOf = (s: Schemas["SetIn"]) => book.steps.find((x) => x.rung === s.rung && x.gait === s.gait)?.id;
  return (
    <Box component="main" sx={penLayout(look, apart)}>
      <PenHead
        name={ride.horse_name}
        rider={now.riderName}
        wears={tack.pieces.length > 1 ? "" : tack.name}
        reps={all}
        called={counted.length > 0 ? "ask" : "rep"}
        waiting={mine}
        face={face}
        onFace={() => setFace(face === "dark" ? "sun" : "dark")}
        onUndo={undo}
        mayUndo={isExercise(mode) ? !!latest : !!draft || all > 0}
        onLeave={leave}
        onClose={() => setSheet("close")}
        onHandOver={() => setSheet("hand-over")}
      />
      <TackRow
        tack={tack}
        face={face}
        modes={modes}
        mode={mode}
        onMode={(mode) => {
          setMode(mode);
          setLeft(mode === null);
        }}
      />
      <Box sx={{ gridArea: "plan", minWidth: 0, display: "flex", gap: "4px" }}>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <PlanStrip
            plan={plan}
            current={current.id}
            done={(id) => logged.filter((r) => stepOf(r.set) === id).length}
            face={face}
            onPick={goTo}
            onOpen={() => setSheet("plan")}
          />
        </Box>
        <QuickHands ride={ride} now={now} cattle={onCattle && !turning} face={face} onChange={setNow} />
      </Box>
      <Box sx={{ gridArea: "step", minWidth: 0 }}>
        <StepBar book={book} standing={standing} plan={plan} current={current} face={face} onPick={pick} />
      </Box>
      <Box sx={{ gridArea: "coach", minWidth: 0 }}>
        {(!apart || mode === "brace") && (
          <PenCoach
            ride={ride.id}
            standing={standing}
            asks={all}
            changes={changes}
            waiting={mine}
            face={face}
            goTo={goTo}
          />
        )}
      </Box>
      <Box sx={{ gridArea: "pads", minHeight: 0, display: "grid" }}>
        <ModePads
          mode={mode ?? (counts ? "counts" : "reps")}
          tack={tack.log}
          cattle={cattle}
          exercises={exercises}
          figure={figure}
          ride={ride.id}
          step={current}
          rung={rung}
          face={face}
          blocked={sheet !== null}
          onAsk={onAsk}
          onCount={onCount}
          onCountFor={onCountFor}
          goTo={goTo}
        />
      </Box>
      <Box sx={{ gridArea: "dots", minWidth: 0 }}>
        {!apart && (
          <Marks
            counts={counts}
            counted={counted.filter((c) => here(c.set))}
            reps={kept.filter((r) => here(r.set))}
            sides={current.sides}
            weights={book.weights}
            face={face}
            open={fixing ?? draft?.of?.id ?? null}
            onOpenCount={(c) => setFixing(c.set.id)}
            onOpenRep={(rep) => send({ do: "open", rep })}
          />
        )}
      </Box>
      <Box sx={{ gridArea: "tray", minHeight: counts || apart ? 0 : 254, minWidth: 0 }}>
        <OutboxNote />
        {draft && rung ? (
          <Tray
            draft={draft}
            behind={session.drafts.length - 1}
            rung={rung}
            faults={book.faults}
            weights={book.weights}
            face={face}
            fill={fill}
            remove={() => {
              if (draft.of) remove(draft.of);
              send({ do: "drop" });
            }}
            leave={() => send({ do: "drop" })}
          />
        ) : fixed && rung ? (
          <CountTray
            key={fixed.set.id}
            of={fixed}
            rung={rung}
            all={book.faults}
            face={face}
            onChange={keepCount}
            onClose={() => setFixing(null)}
          />
        ) : (
          rung &&
          !apart && (
            <>
              {tack.isTwoRein && <ShareBar log={tack.log} face={face} />}
              <PatternBar ride={ride} step={current} rung={rung} face={face} />
              {counts && (
                <FaultRow
                  tags={rung.faults}
                  all={book.faults}
                  face={face}
                  on={faults}
                  onToggle={(tag) => setFaults(toggled(faults, tag))}
                />
              )}
              {!counts && (
                <Big face={face} onClick={() => setSheet("set")} hint="S">
                  Log a set
                </Big>
              )}
              <Reminder
                rung={rung}
                step={current}
                standing={standing}
                plan={plan}
                face={face}
                before={
                  <LastTime
                    horse={ride.horse_id}
                    step={current}
                    today={ride.date}
                    reps={kept.filter((r) => here(r.set))}
                    face={face}
                  />
                }
              />
            </>
          )
        )}
      </Box>
      <PenSheets
        sheet={sheet}
        ride={ride}
        book={book}
        plan={plan}
        now={now}
        cattle={onCattle}
        reps={all}
        step={current}
        rung={rung}
        tapped={tapped}
        face={face}
        onNow={setNow}
        onLog={logSet}
        onClose={() => setSheet(null)}
      />
    </Box>
  );
}
