import type { Schemas } from "../../api/client";
import { marigoldDark, oxblood, pine } from "../../theme/tokens";

type TakesHold = Schemas["TakesHold"];

export const mouthpieceName: Record<Schemas["Mouthpiece"], string> = {
  bitless: "Bosal",
  snaffle: "Snaffle",
  leverage: "Leverage",
};
/** When a curb strap takes hold, in few words. */
export const holdWord: Record<TakesHold, string> = {
  tight: "holds at once",
  snug: "holds early",
  good: "holds well",
  long: "holds late",
  loose: "holds too late",
  never: "never holds",
};
export const holdColour = (hold: TakesHold) =>
  hold === "good" ? pine : hold === "snug" || hold === "long" ? marigoldDark : oxblood;

export const degrees = (radians: number) => (radians * 180) / Math.PI;
export const radians = (degrees: number) => (degrees * Math.PI) / 180;
/** An angle as it is told. */
export const angle = (of: number) => `${Math.round(degrees(of))}°`;
/** A force as it is told: two figures that mean something. */
export const newtons = (force: number) =>
  `${force >= 100 ? Math.round(force / 5) * 5 : force >= 10 ? Math.round(force) : Number(force.toFixed(1))} N`;
