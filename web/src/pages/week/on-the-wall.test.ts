import { expect, test } from "vitest";
import { zoomFor } from "./on-the-wall";

/** A letter page on its side, 10 mm of margin, 96 pixels to the inch, and at least 90 pixels for the title. */
const PAGE = { width: 11 * 96 - 2 * 37.8, height: 8.5 * 96 - 2 * 37.8 - 90 };

test("what fits is printed at its largest, whatever its height", () => {
  expect(zoomFor(() => 10)).toBe(zoomFor(() => 600));
  expect(zoomFor((zoom) => 900 * zoom)).toBeLessThan(zoomFor(() => 600));
});

test("what is too high shrinks until it fits its page, as wide as it is then", () => {
  for (const area of [1_000_000, 2_000_000, 4_000_000]) {
    // Text that breaks: the wider, the lower, down to the height of its rides; and lines that stay as thick as they are.
    const heightAt = (zoom: number) => zoom * Math.max(800, (area * zoom) / PAGE.width) + 40;
    const zoom = zoomFor(heightAt);
    expect(heightAt(zoom)).toBeLessThanOrEqual(PAGE.height);
    // And not smaller than it has to be: a little larger does not fit.
    if (zoom * 1.15 < zoomFor(() => 10)) expect(heightAt(zoom * 1.15)).toBeGreaterThan(PAGE.height - 40);
  }
});

test("it stays large enough to be read, and ends, whatever is measured", () => {
  expect(zoomFor(() => 1e9)).toBeGreaterThanOrEqual(0.2);
  expect(zoomFor(() => 0)).toBe(zoomFor(() => 10));
});
