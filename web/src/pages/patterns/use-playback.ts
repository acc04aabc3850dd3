import { useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";

/** Where a run is at a moment: the last point that it has reached, by halves. */
export function reached(points: number[][], t: number): number {
  let [low, high] = [0, points.length - 1];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if ((points[middle]?.[4] ?? 0) <= t) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The points of a run at which each stride ends. */
export function strideMarks(points: number[][], stride: number): number[][] {
  const out: number[][] = [];
  for (const point of points) if ((point[2] ?? 0) >= stride * (out.length + 1)) out.push(point);
  return out;
}

/** Plays a run at true speed: seconds since its start, none while it stands. */
export function usePlayback(run: Schemas["RunOut"] | undefined) {
  const [t, setT] = useState<number | null>(null);
  const frame = useRef(0);
  const stop = () => {
    cancelAnimationFrame(frame.current);
    setT(null);
  };
  const play = () => {
    if (!run) return;
    cancelAnimationFrame(frame.current);
    const began = performance.now();
    const tick = (now: number) => {
      const gone = (now - began) / 1000;
      if (gone > run.seconds + 0.8) return stop();
      setT(Math.min(gone, run.seconds));
      frame.current = requestAnimationFrame(tick);
    };
    frame.current = requestAnimationFrame(tick);
  };
  useEffect(() => () => cancelAnimationFrame(frame.current), []);
  return { t, playing: t !== null, play, stop };
}
