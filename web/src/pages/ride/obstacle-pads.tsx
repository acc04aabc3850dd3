import Box from "@mui/material/Box";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { STAGES, type Count } from "../../parts/counts";
import { exercisesOf, type ExerciseLog } from "../../parts/exercise-log";
import { useKeys } from "../../parts/keys";
import { Toggle } from "../../parts/toggle";
import { day } from "../../parts/words";
import { faces, gloveTarget, marigold, oxblood, pine, type Face } from "../../theme/tokens";
import { Big } from "./big";
import type { RideFigure } from "./use-ride-figure";

type Try = Schemas["ObstacleTry"];
type ToTry = { name: string; obstacle: Schemas["Obstacle"]; rung: string };

const sides = ["left", "right"] as const;
const stageName = Object.fromEntries(STAGES) as Record<Schemas["ObstacleStage"], string>;
const edges: Record<Schemas["NextTry"], string> = {
  ask: pine,
  again: pine,
  confirm: marigold,
  smaller: oxblood,
  leave: marigold,
};

/** Tries at obstacles: which one, how far it got in one tap, and the side that it leaked to. */
export function ObstaclePads(props: {
  log: ExerciseLog;
  figure: RideFigure | null;
  rung: Schemas["RungOut"];
  face: Face;
  /** Counts the try for the rung of its obstacle, too; gives the id that both go by. */
  onCount: (rung: string, count: Count) => string;
}) {
  const { log, face } = props;
  const look = faces[face];
  const [picked, setPicked] = useState<string | null>(null);
  const { seen } = log;
  const all = toTry(seen, props.figure, props.rung);
  const tries = exercisesOf(log.events, "try");
  const latest = tries.at(-1);
  const now = all.find((it) => it.name === (picked ?? latest?.event.name)) ?? all[0];
  const own = tries.filter(({ event }) => event.name === now?.name);
  const last = own.at(-1);
  // What the server told counts until something is logged that it does not know yet.
  const told = log.unsent === 0 ? seen?.tried.find((it) => it.name === now?.name) : undefined;
  const before = seen?.before.find((it) => it.obstacle === now?.obstacle);
  const stages = seen?.kinds.find((it) => it.obstacle === now?.obstacle)?.stages ?? [];
  const tap = (reached: Schemas["ObstacleStage"]) => {
    if (!now) return;
    const id = props.onCount(now.rung, { kind: "tries", tries: [reached] });
    log.log({ kind: "try", obstacle: now.obstacle, name: now.name, of: { reached, leaked: null } }, id);
    setPicked(now.name);
  };
  const leak = (leaked: Schemas["Hand"]) => {
    if (!last) return;
    const { of } = last.event;
    const to = of.leaked === leaked ? null : leaked;
    log.correct(last.entry, { ...last.event, of: { ...of, leaked: to } });
  };
  useKeys({
    ...Object.fromEntries(stages.map((stage, n) => [String(n + 1), () => tap(stage)])),
    f: () => leak("left"),
    j: () => leak("right"),
  });
  if (!now) return <Box role="status">The obstacles are not on this device yet.</Box>;
  return (
    <Box
      role="group"
      aria-label="Tries at an obstacle"
      sx={{ display: "grid", gridTemplateRows: "auto auto minmax(0, 1fr) auto", gap: "6px", minHeight: 0 }}
    >
      <Box sx={{ display: "flex", gap: "4px", overflowX: "auto", scrollbarWidth: "none" }}>
        {all.map((it) => {
          const n = tries.filter(({ event }) => event.name === it.name).length;
          return (
            <Toggle
              key={it.name}
              name={n > 0 ? `${it.name} (${n})` : it.name}
              on={it.name === now.name}
              colours={{ text: look.text, line: look.line, on: look.text, onText: look.ground }}
              onPress={() => setPicked(it.name)}
              sx={{ minHeight: gloveTarget, px: 1.25, flex: "none" }}
            />
          );
        })}
      </Box>
      <Box
        role="status"
        sx={{
          minHeight: 48,
          lineHeight: 1.25,
          borderLeft: `7px solid ${told ? edges[told.next] : look.line}`,
          pl: 1,
        }}
      >
        {told ? (
          <>
            {told.why} {told.next === "smaller" && told.smaller}
          </>
        ) : own.length > 0 ? (
          triesSay(own.map(({ event }) => event.of))
        ) : before ? (
          `${day(before.on)}: ${triesSay(before.tries)}`
        ) : (
          "Let it look, and release for one step toward it."
        )}
      </Box>
      <Box
        sx={{
          display: "grid",
          gap: "6px",
          gridTemplateColumns: stages.length > 3 ? { xs: "1fr 1fr", sm: "repeat(4, 1fr)" } : "1fr",
          gridAutoRows: "minmax(56px, 1fr)",
          minHeight: 0,
        }}
      >
        {stages.map((stage, n) => (
          <Box
            key={stage}
            sx={{
              display: "grid",
              gridColumn: stages.length > 3 && n + 1 === stages.length ? "span 2" : undefined,
            }}
          >
            <Big
              face={face}
              hint={String(n + 1)}
              stripe={stage === "crosses" ? pine : undefined}
              onClick={() => tap(stage)}
            >
              {stages.length === 3 && stage === "crosses" ? "Goes through" : stageName[stage]}
            </Big>
          </Box>
        ))}
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "4px" }}>
        {sides.map((side) => (
          <Big
            key={side}
            face={face}
            disabled={!last}
            pressed={last?.event.of.leaked === side}
            stripe={look[side]}
            hint={side === "left" ? "F" : "J"}
            onClick={() => leak(side)}
          >
            Leaked {side}
          </Big>
        ))}
      </Box>
    </Box>
  );
}

/** The obstacles of the course that is ridden, else those of the rung. */
function toTry(seen: ExerciseLog["seen"], figure: RideFigure | null, rung: Schemas["RungOut"]): ToTry[] {
  const course = figure?.ridden?.course ?? [];
  if (course.length > 0) return course.map(({ name, obstacle, rung }) => ({ name, obstacle, rung }));
  const kinds = seen?.kinds ?? [];
  const own = kinds.filter((kind) => kind.rung === rung.id);
  return own.length > 0 ? own : kinds;
}

/** `Two feet, leaked left; Crosses`. */
function triesSay(tries: Try[]): string {
  const says = ({ reached, leaked }: Try) => stageName[reached] + (leaked ? `, leaked ${leaked}` : "");
  return `${tries.map(says).join("; ")}.`;
}
