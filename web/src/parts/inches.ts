import type { Schemas } from "../api/client";

type Units = Schemas["Units"];

/** Metres in an inch (international inch, 1959). */
export const INCH = 0.0254;

/** A small length as it is read off a rule: inches to the eighth, or millimetres. */
export function onRule(units: Units, metres: number): string {
  if (units === "metric") return `${(metres * 1000).toFixed(0)} mm`;
  const eighths = Math.round((Math.abs(metres) / INCH) * 8);
  const whole = Math.floor(eighths / 8);
  const part = ["", "⅛", "¼", "⅜", "½", "⅝", "¾", "⅞"][eighths % 8] ?? "";
  return `${metres < 0 && eighths > 0 ? "−" : ""}${whole > 0 || !part ? whole : ""}${part} in`;
}

const fractions: Record<string, number> = { "⅛": 1, "¼": 2, "⅜": 3, "½": 4, "⅝": 5, "¾": 6, "⅞": 7 };

/** What was typed as inches (`1 3/4`, `1¾`, `1.75`) or as millimetres; none where it is no length. */
export function typedSmall(units: Units, typed: string): number | null {
  const text = typed
    .trim()
    .replace("−", "-")
    .replace(",", ".")
    .replace(/\s*(in|"|mm)$/, "");
  const found = /^(-?)(\d*\.?\d*)\s*(?:([⅛¼⅜½⅝¾⅞])|(\d+)\/(\d+))?$/.exec(text);
  if (!found || (!found[2] && !found[3] && !found[4])) return null;
  const [, minus, whole, sign, over, under] = found;
  // `3/4` alone: the digits before the stroke are no whole number.
  const part = sign
    ? (fractions[sign] ?? 0) / 8
    : over && Number(under) > 0
      ? Number(over) / Number(under)
      : 0;
  if (over && !(Number(under) > 0)) return null;
  const value = (Number(whole || 0) + part) * (minus ? -1 : 1);
  if (!Number.isFinite(value)) return null;
  return units === "metric" ? value / 1000 : value * INCH;
}

/** A small length as a form holds it. */
export const typedFor = (units: Units, metres: number) =>
  units === "metric" ? String(Math.round(metres * 10_000) / 10) : onRule(units, metres).replace(" in", "");
