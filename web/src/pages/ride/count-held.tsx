import { useEffect, useState } from "react";
import { useKeys } from "../../parts/keys";
import { CountPad, Ends, type ControlProps } from "./count-pad";
import { Big } from "./big";
import { useTally } from "./use-tally";

/** Seconds off the hand: a clock that runs on, whatever the page does meanwhile. */
export function Held({ side, face, keyed, place, say, aim }: ControlProps & { aim: number }) {
  const [since, setSince] = useTally(place);
  const [now, setNow] = useState(() => Date.now());
  const seconds = since > 0 ? Math.max(0, Math.floor((now - since) / 1000)) : 0;
  const reached = since > 0 && seconds >= aim;
  useEffect(() => {
    if (since === 0) return;
    const tick = setInterval(() => setNow(Date.now()), 200);
    return () => clearInterval(tick);
  }, [since]);
  useEffect(() => {
    if (reached) navigator.vibrate?.(120);
  }, [reached]);
  const begin = () => {
    setNow(Date.now());
    setSince(Date.now());
  };
  const end = (lost: boolean) => {
    if (since === 0) return;
    const held = Math.min(3600, Math.max(0, Math.floor((Date.now() - since) / 1000)));
    setSince(0);
    // Let go of within the first second is a touch that was not meant.
    if (lost || held > 0) say({ kind: "held", seconds: held, lost });
  };
  useKeys(keyed ? { "+": begin, ArrowUp: begin, g: () => end(false), n: () => end(true) } : {});
  return (
    <>
      {since === 0 ? (
        <CountPad side={side} face={face} hint="↑" shows={`${aim} s is the aim`} onClick={begin}>
          Off the hand now
        </CountPad>
      ) : (
        <CountPad
          side={side}
          face={face}
          hint="G"
          shows={`${seconds} of ${aim} s${reached ? ", there" : ""}`}
          onClick={() => end(false)}
        >
          Let go of it, still soft
        </CountPad>
      )}
      <Ends>
        <Big face={face} hint="N" disabled={since === 0} onClick={() => end(true)}>
          It came back onto the hand
        </Big>
      </Ends>
    </>
  );
}
