import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import type { FlagDrive } from "./use-flag-drive";

type Move = Schemas["FlagMoveOut"];
/** It is there when it is so near, feet. */
const NEAR = 0.4;

/** Runs a programme move by move: goes, stands, waits, and on. It ends by itself, by Stop, and when the motor says that it was stopped. */
export function useProgramme(moves: Move[], drive: FlagDrive) {
  const [at, setAt] = useState<number | null>(null);
  const [stood, setStood] = useState(false);
  const { reading, give, cut, lost } = drive;
  const move = at === null ? undefined : moves[at];
  const halted = cut || lost || reading?.state === "emergency";
  const stop = () => {
    setAt(null);
    setStood(false);
    give({ kind: "stop" });
  };
  const start = () => {
    setStood(false);
    setAt(0);
    if (moves[0]) give({ kind: "to", at: moves[0].to, speed: moves[0].speed });
  };
  if (at !== null && halted) {
    setAt(null);
    setStood(false);
  }
  const there = !!move && !!reading && reading.speed === 0 && Math.abs(reading.at - move.to) < NEAR && !stood;
  if (there) setStood(true);
  useEffect(() => {
    if (at === null || !stood) return;
    const next = moves[at + 1];
    const timer = setTimeout(
      () => {
        setStood(false);
        setAt(next ? at + 1 : null);
        give(next ? { kind: "to", at: next.to, speed: next.speed } : { kind: "stop" });
      },
      (moves[at]?.wait ?? 0) * 1000,
    );
    return () => clearTimeout(timer);
  }, [at, stood, moves, give]);
  return { at, stood, start, stop };
}
