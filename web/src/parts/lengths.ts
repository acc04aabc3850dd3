import type { Schemas } from "../api/client";

type Units = Schemas["Units"];

/** Metres in a foot (international foot, 1959). */
const FOOT = 0.3048;

export const unitOfLength = (units: Units) => (units === "metric" ? "m" : "ft");
export const lengthIn = (units: Units, metres: number) => (units === "metric" ? metres : metres / FOOT);
/** A typed length in metres; none where none was typed. */
export const metresOf = (units: Units, typed?: number | null) =>
  typed === null || typed === undefined ? null : units === "metric" ? typed : typed * FOOT;
