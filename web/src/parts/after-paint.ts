import { startTransition, useEffect, useState } from "react";

/** A hidden page paints nothing; it is made whole all the same. */
const AT_THE_LATEST_MS = 300;

/** False while a page that is there is painted for the first time, then true: what is not on the screen yet does not hold up what is. */
export function useAfterPaint(there: boolean): boolean {
  const [painted, setPainted] = useState(false);
  useEffect(() => {
    if (!there) return;
    const go = () => startTransition(() => setPainted(true));
    const frame = requestAnimationFrame(() => setTimeout(go));
    const latest = setTimeout(go, AT_THE_LATEST_MS);
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(latest);
    };
  }, [there]);
  return painted;
}
