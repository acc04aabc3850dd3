import { useCallback, useEffect, useRef, useState } from "react";
import { api, ask, type Schemas } from "../../api/client";

export type FlagOrder = Schemas["FlagOrderIn"];
export type FlagReading = Schemas["FlagReadingOut"];

/** How often the motor hears from this page while it is open: well within the time after which it stops by itself. */
const BEAT_MS = 150;

/**
 * The flag's motor: the order that stands is sent again and again, so that it stops by itself when this page or its signal is gone.
 * What stands after an emergency stop or a release is nothing.
 */
export function useFlagDrive() {
  const [reading, setReading] = useState<FlagReading | null>(null);
  const [half, setHalf] = useState(25);
  const [cut, setCut] = useState(false);
  // Whether it stopped by itself since it was last told to do something.
  const [lost, setLost] = useState(false);
  const order = useRef<FlagOrder>({ kind: "beat" });
  const busy = useRef(false);
  const send = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    const sent = order.current;
    try {
      const told = await ask(api.POST("/api/flag", { body: sent }));
      setHalf(told.half);
      const last = told.readings.at(-1);
      if (last) setReading(last);
      if (told.readings.some((r) => r.state === "link-lost")) setLost(true);
      setCut(false);
      // Said once is enough for what does not go on.
      if (order.current === sent && ["emergency", "release", "stop"].includes(sent.kind))
        order.current = { kind: "beat" };
    } catch {
      // Whatever it was told to do is over: it stops by itself, and does not go on when the signal is back.
      order.current = { kind: "beat" };
      setCut(true);
    } finally {
      busy.current = false;
    }
  }, []);
  useEffect(() => {
    const timer = setInterval(() => void send(), BEAT_MS);
    return () => clearInterval(timer);
  }, [send]);
  const give = useCallback(
    (next: FlagOrder) => {
      order.current = next;
      setLost(false);
      void send();
    },
    [send],
  );
  return { reading, half, cut, lost, give };
}
export type FlagDrive = ReturnType<typeof useFlagDrive>;
