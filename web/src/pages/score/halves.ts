import type { Schemas } from "../../api/client";

/** The scores of a part, halves. */
export const SCORES = [-3, -2, -1, 0, 1, 2, 3];
/** The penalties, halves: ½, 1, 2 and 5. */
export const PENALTIES = [1, 2, 4, 10];
/** A run begins with so many halves. */
const BEGINS = 140;

/** Halves as they are written: `70½`, `−1½`. */
export function halvesSay(halves: number): string {
  const whole = Math.floor(Math.abs(halves) / 2);
  const half = halves % 2 !== 0 ? "½" : "";
  return `${halves < 0 ? "−" : ""}${whole > 0 || !half ? whole : ""}${half}`;
}

/** A score as it is written: `+½`. */
export const scoreSays = (halves: number) => (halves > 0 ? "+" : "") + halvesSay(halves);

/** What a part adds, halves. */
export const given = (mark: Schemas["MarkGiven"]) =>
  (mark.score ?? 0) - (mark.penalties ?? []).reduce((sum, it) => sum + it, 0);

/** The total so far, halves. The server's counts once the sheet is sent. */
export const totalOf = (marks: Schemas["MarkGiven"][]) => marks.reduce((sum, it) => sum + given(it), BEGINS);
