import type { Schemas } from "../api/client";

type Units = Schemas["Units"];

/** Metres in a foot (international foot, 1959). */
export const FOOT = 0.3048;

export const unitOfLength = (units: Units) => (units === "metric" ? "m" : "ft");
export const lengthIn = (units: Units, metres: number) => (units === "metric" ? metres : metres / FOOT);
/** A typed length in metres; none where none was typed. */
export const metresOf = (units: Units, typed?: number | null) =>
  typed === null || typed === undefined ? null : units === "metric" ? typed : typed * FOOT;

/** A length as it is read off a tape: feet and inches to the half inch, or metres to the centimetre. */
export function onTape(units: Units, metres: number): string {
  if (units === "metric") return `${metres.toFixed(2)} m`;
  const halves = Math.round((Math.abs(metres) / FOOT) * 24);
  const feet = Math.floor(halves / 24);
  const inches = (halves % 24) / 2;
  const sign = metres < 0 && halves > 0 ? "−" : "";
  const small = inches ? `${Math.floor(inches)}${inches % 1 ? "½" : ""} in` : "";
  if (feet === 0 && small) return `${sign}${small.replace(/^0½/, "½")}`;
  return `${sign}${feet} ft${small && ` ${small.replace(/^0½/, "½")}`}`;
}

/** A length as it is told, to the foot or the half metre. */
export const about = (units: Units, metres: number) =>
  units === "metric" ? `${(Math.round(metres * 2) / 2).toString()} m` : `${Math.round(metres / FOOT)} ft`;

/** What was typed as feet and inches (`45 6`, `45' 6"`, `45.5`) or as metres; none where it is no length. */
export function typedLength(units: Units, typed: string): number | null {
  const text = typed.trim().replace("−", "-").replace(",", ".");
  const found = /^(-?\d+(?:\.\d+)?)\s*(?:ft|'|m)?(?:\s*(\d+(?:\.\d+)?)\s*(?:in|")?)?$/.exec(text);
  if (!found?.[1]) return null;
  const whole = Number(found[1]);
  if (units === "metric") return found[2] ? null : whole;
  const inches = Number(found[2] ?? 0) / 12;
  return (whole + (text.startsWith("-") ? -inches : inches)) * FOOT;
}

/** A speed, miles or kilometres an hour. */
export const speedIn = (units: Units, metresASecond: number) =>
  units === "metric"
    ? `${(metresASecond * 3.6).toFixed(0)} km/h`
    : `${(metresASecond * 2.23694).toFixed(0)} mph`;
