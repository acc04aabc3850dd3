import { useEffect, useRef } from "react";

/** What a letter page on its side has inside its margins, in pixels at 96 to the inch: its width, and its height under the title. */
const WIDTH = 978;
const HEIGHT = 640;
/** The largest the grid is printed, and the smallest that can still be read from a step away. */
const LARGEST = 0.95;
const SMALLEST = 0.2;

/** Printed, the week is one page on its side: the title and the grid, which has room for all of its rows. */
export const onTheWall = {
  "@media print": {
    "@page": { size: "letter landscape", margin: "10mm" },
    "body *": { printColorAdjust: "exact" },
    "[role=region]": { overflow: "visible !important", zoom: "var(--on-the-wall)" },
  },
} as const;

/** How small something is printed so that it fits, from how high it is printed then. The larger, the narrower and the higher. */
export function zoomFor(heightAt: (zoom: number) => number): number {
  const fits = (zoom: number) => heightAt(zoom) <= HEIGHT;
  if (fits(LARGEST)) return LARGEST;
  let [small, large] = [SMALLEST, LARGEST];
  while (large - small > 0.01) {
    const middle = (small + large) / 2;
    if (fits(middle)) small = middle;
    else large = middle;
  }
  return small;
}

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
      it.classList.add("measured");
      const zoom = zoomFor((zoom) => {
        // As small as it will be: a hair line stays one, so what is half as large is more than half as high.
        it.style.zoom = String(zoom);
        it.style.width = `${WIDTH / zoom}px`;
        return it.getBoundingClientRect().height;
      });
      it.style.zoom = it.style.width = "";
      it.classList.remove("measured");
      it.style.setProperty("--on-the-wall", String(zoom));
    };
    window.addEventListener("beforeprint", fit);
    return () => window.removeEventListener("beforeprint", fit);
  }, []);
  return grid;
}
