import { useEffect, useRef, useState } from "react";
import { whereAt, type Piece } from "./piece";

/** So many times faster than it is ridden. */
const FASTER = 4;

/** Plays a figure along its path: what is ridden now, none while it stands. */
export function useRide(path: Piece[]) {
  const [seconds, setSeconds] = useState<number | null>(null);
  const frame = useRef(0);
  useEffect(() => () => cancelAnimationFrame(frame.current), []);
  const stop = () => {
    cancelAnimationFrame(frame.current);
    setSeconds(null);
  };
  const play = () => {
    cancelAnimationFrame(frame.current);
    const began = performance.now();
    const tick = (now: number) => {
      const gone = ((now - began) / 1000) * FASTER;
      if (!whereAt(path, gone)) return stop();
      setSeconds(gone);
      frame.current = requestAnimationFrame(tick);
    };
    frame.current = requestAnimationFrame(tick);
  };
  return { now: seconds === null ? null : whereAt(path, seconds), play, stop };
}
