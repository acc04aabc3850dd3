import { useEffect, useRef } from "react";

/** What a letter page on its side has inside its margins, in pixels at 96 to the inch: its width, and its height under the title. */
const WIDTH = 978;
const HEIGHT = 650;
/** The largest the grid is printed, and the smallest that can still be read from a step away. */
const LARGEST = 0.7;
const SMALLEST = 0.2;

/** Printed, the week is one page on its side: the title and the grid, which has room for all of its rows. */
export const onTheWall = {
  "@media print": {
    "@page": { size: "letter landscape", margin: "10mm" },
    "body *": { printColorAdjust: "exact" },
    "[role=region]": { overflow: "visible !important", zoom: "var(--on-the-wall)" },
  },
} as const;

/**
 * Shrinks the grid to its page, however many rides there are. It is measured when it is printed and at the width that it has
 * there: before that nothing is known of the page, and rides, appointments and letters still come.
 */
export function useOnTheWall() {
  const grid = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const fit = () => {
      const it = grid.current;
      if (!it) return;
      let zoom = LARGEST;
      for (;;) {
        // Smaller is wider as well, so its rows break less: each round is nearer to what fits.
        it.style.width = `${WIDTH / zoom}px`;
        const fits = Math.max(SMALLEST, HEIGHT / it.scrollHeight);
        if (fits >= zoom) break;
        zoom = fits;
      }
      it.style.width = "";
      it.style.setProperty("--on-the-wall", String(zoom));
    };
    window.addEventListener("beforeprint", fit);
    return () => window.removeEventListener("beforeprint", fit);
  }, []);
  return grid;
}
