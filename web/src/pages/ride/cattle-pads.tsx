import Box from "@mui/material/Box";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { cowNow, type CattleLog, type TurnEvent } from "../../parts/cattle-log";
import { freshName, mannerName, positionName, speedName, stoppedName } from "../../parts/cattle-words";
import { NextBar } from "../../parts/next-bar";
import { faces, gloveTarget, marigold, slab, white, type Face } from "../../theme/tokens";
import { Big } from "./big";
import { CowPicker } from "./cow-picker";
import { HowFar } from "./how-far";
import { TurnDots } from "./turn-dots";

const positions: Schemas["Position"][] = ["leg", "pad", "hip", "off"];
const sides = ["left", "right"] as const;

/** On cattle as a mode of the pads: the cow on top, one tap a turn, and what was different about the last one. */
export function CattlePads({ log, face }: { log: CattleLog; face: Face }) {
  const look = faces[face];
  const [picking, setPicking] = useState(false);
  const cow = cowNow(log.events);
  const known = log.seen?.cows.find((c) => c.id === cow);
  const last = [...log.events].reverse().find((entry) => entry.event.kind === "turn");
  const turn = last?.event as TurnEvent | undefined;
  const onThisCow = turn && turn.cow === cow;
  const advice = log.unsent === 0 ? log.seen?.advice : null;
  const latest = log.events.at(-1);
  const take = (id: string, why: string | null) => {
    log.log({ kind: "work", cow: id, why });
    setPicking(false);
  };
  const turned = (way: "left" | "right", position: Schemas["Position"]) =>
    cow &&
    log.log({
      kind: "turn",
      cow,
      way,
      position,
      stopped: "even",
      through: true,
      speed: turn?.speed ?? "slow",
      honoured: true,
    });
  const change = (with_: Partial<TurnEvent>) => last && turn && log.correct(last, { ...turn, ...with_ });
  return (
    <Box
      role="group"
      aria-label="On cattle"
      sx={{ display: "grid", gridTemplateRows: "auto auto minmax(0, 1fr) auto", gap: "6px", minHeight: 0 }}
    >
      <Box sx={{ display: "flex", gap: "6px", alignItems: "stretch" }}>
        <Box
          component="button"
          type="button"
          onClick={() => setPicking(true)}
          sx={{
            font: "inherit",
            flex: 1,
            minWidth: 0,
            minHeight: gloveTarget,
            textAlign: "left",
            border: `2px solid ${look.line}`,
            borderLeft: `7px solid ${marigold}`,
            background: look.panel,
            color: look.text,
            px: 1,
            cursor: "pointer",
          }}
        >
          {cow ? (
            <>
              <Box component="span" sx={{ fontFamily: slab, fontWeight: 700, fontSize: "1.45rem", mr: 1 }}>
                {known?.tag ?? "Cow"}
              </Box>
              {known &&
                `${known.looks && `${known.looks}, `}${mannerName[known.manner].toLowerCase()}, ${freshName[known.freshness].toLowerCase()}`}
            </>
          ) : (
            <Box component="span" sx={{ fontFamily: slab, fontWeight: 700, fontSize: "1.25rem" }}>
              Pick a cow
            </Box>
          )}
        </Box>
        {cow && (
          <Big face={face} onClick={() => log.log({ kind: "left" })}>
            Leave the herd
          </Big>
        )}
      </Box>
      <Box sx={{ minHeight: 26, lineHeight: 1.2, display: "grid", gap: "4px" }}>
        {advice ? <NextBar advice={advice} /> : <TurnDots events={log.events} face={face} />}
        {log.seen?.came_back[0] && <span>{log.seen.came_back[0]}.</span>}
        {!turn && log.seen && <HowFar limits={log.seen.limits} />}
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "6px", minHeight: 0 }}>
        {sides.map((way) => (
          <Box
            key={way}
            role="group"
            aria-label={way === "left" ? "Turned left" : "Turned right"}
            sx={{
              display: "grid",
              gridTemplateRows: `auto repeat(${positions.length}, minmax(52px, 1fr))`,
              gap: "2px",
            }}
          >
            <Box sx={{ color: look.muted, fontWeight: 650 }}>
              {way === "left" ? "Turned left" : "Turned right"}
            </Box>
            {positions.map((position) => (
              <Box
                key={position}
                component="button"
                type="button"
                disabled={!cow}
                aria-label={`Turned ${way}, ${positionName[position].toLowerCase()}`}
                onClick={() => turned(way, position)}
                sx={{
                  font: "inherit",
                  fontWeight: 700,
                  fontSize: "1.1rem",
                  border: 0,
                  color: white,
                  background: look[way],
                  cursor: "pointer",
                  touchAction: "manipulation",
                  "&:disabled": { opacity: 0.4, cursor: "default" },
                }}
              >
                {positionName[position]}
              </Box>
            ))}
          </Box>
        ))}
      </Box>
      <Box sx={{ display: "grid", gap: "4px" }}>
        {onThisCow && (
          <Box role="group" aria-label="The last turn" sx={{ display: "flex", flexWrap: "wrap", gap: "4px" }}>
            {(["short", "past"] as const).map((stopped) => (
              <Big
                key={stopped}
                face={face}
                pressed={turn.stopped === stopped}
                onClick={() => change({ stopped: turn.stopped === stopped ? "even" : stopped })}
              >
                {stoppedName[stopped]}
              </Big>
            ))}
            <Big face={face} pressed={!turn.through} onClick={() => change({ through: !turn.through })}>
              Shoulder out
            </Big>
            <Big face={face} pressed={!turn.honoured} onClick={() => change({ honoured: !turn.honoured })}>
              Cow walked through
            </Big>
            {(["slow", "lively", "fast"] as const).map((speed) => (
              <Big key={speed} face={face} pressed={turn.speed === speed} onClick={() => change({ speed })}>
                {speedName[speed]}
              </Big>
            ))}
          </Box>
        )}
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: "4px" }}>
          {cow && (
            <>
              <Big face={face} onClick={() => log.log({ kind: "lost", cow, in_position: false })}>
                Lost it: we were late
              </Big>
              <Big face={face} onClick={() => log.log({ kind: "lost", cow, in_position: true })}>
                It ran through us
              </Big>
            </>
          )}
          {latest && (
            <Big face={face} onClick={() => log.takeBack(latest)}>
              Undo
            </Big>
          )}
        </Box>
      </Box>
      {picking && <CowPicker seen={log.seen} now={cow} onPick={take} onClose={() => setPicking(false)} />}
    </Box>
  );
}
