import { useCallback, useEffect, useRef, useState } from "react";
import { api, ask, type Schemas } from "../../api/client";

type Out = Schemas["PracticeOut"];
type Manner = Schemas["Manner"];

/** How often the pen goes on, and how many steps of a twentieth of a second that is at true speed. */
const TICK_MS = 100;
const STEPS = 2;
/** Steps that are caught up on at once after a slow response. */
const MOST = 20;

/** A practice in the pen: goes on by the clock while it runs, with the horse wanted where the rider put it last. */
export function usePractice() {
  const [seen, setSeen] = useState<Out | null>(null);
  const [target, setTarget] = useState<{ x: number; y: number } | null>(null);
  const [running, setRunning] = useState(false);
  const [error, setError] = useState<Error | null>(null);
  const [speed, setSpeed] = useState(1);
  const now = useRef<Out | null>(null);
  const want = useRef<{ x: number; y: number } | null>(null);
  const due = useRef(0);
  const busy = useRef(false);

  const take = useCallback((out: Out) => {
    now.current = out;
    setSeen(out);
    if (out.now.lost) setRunning(false);
  }, []);
  const place = useCallback((x: number, y: number) => {
    const [wide = 80, deep = 60] = now.current?.pen ?? [];
    const at = { x: Math.max(0, Math.min(wide, x)), y: Math.max(0, Math.min(deep, y)) };
    want.current = at;
    setTarget(at);
  }, []);
  const begin = useCallback(
    async (manner: Manner, seed: number) => {
      try {
        const out = await ask(api.POST("/api/cattle-practice", { body: { manner, seed, placed: [] } }));
        take(out);
        place(out.now.horse.x, out.now.horse.y);
        due.current = 0;
        setError(null);
        setRunning(true);
      } catch (e) {
        setError(e as Error);
      }
    },
    [place, take],
  );
  useEffect(() => {
    if (!running) return;
    const tick = async () => {
      due.current = Math.min(MOST, due.current + STEPS * speed);
      const it = now.current;
      const at = want.current;
      const steps = Math.floor(due.current);
      if (busy.current || !it || !at || steps < 1) return;
      busy.current = true;
      due.current -= steps;
      try {
        const { seed, manner } = it.now;
        const body = { from: it.now, seed, manner, placed: [{ ...at, steps }] };
        take(await ask(api.POST("/api/cattle-practice", { body })));
        setError(null);
      } catch (e) {
        setError(e as Error);
        setRunning(false);
      } finally {
        busy.current = false;
      }
    };
    const timer = setInterval(() => void tick(), TICK_MS);
    return () => clearInterval(timer);
  }, [running, speed, take]);
  return { seen, target, running, error, speed, setSpeed, setRunning, begin, place };
}
export type Practising = ReturnType<typeof usePractice>;
