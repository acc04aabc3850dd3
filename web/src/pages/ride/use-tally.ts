import { useState } from "react";

/** A number that a half-ridden set stands at: kept on the device, so that a page that is closed loses none of it. */
export function useTally(place: string): [number, (n: number) => void] {
  const key = `cavesson.tally.${place}`;
  const [n, setN] = useState(() => {
    try {
      return Number(localStorage.getItem(key) ?? 0) || 0;
    } catch {
      return 0;
    }
  });
  const set = (next: number) => {
    setN(next);
    try {
      if (next > 0) localStorage.setItem(key, String(next));
      else localStorage.removeItem(key);
    } catch {
      // It counts on in this page.
    }
  };
  return [n, set];
}
