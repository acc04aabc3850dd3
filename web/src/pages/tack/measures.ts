import type { Schemas } from "../../api/client";
import { INCH, typedFor, typedSmall } from "../../parts/inches";
import { degrees, radians } from "./tack-words";

type Units = Schemas["Units"];
type Mouthpiece = Schemas["Mouthpiece"];

/** What stands in the form, by the name of the measure. */
export type Typed = Record<string, string>;
export type Field = { key: string; name: string; degrees?: boolean; help?: string };

/** How far a headstall gives for a newton where nobody knows: a guess. */
const GIVE = 0.05 * INCH;
const POLL = 18 * INCH;

const leverage: Field[] = [
  { key: "purchase", name: "Mouthpiece to the ring above" },
  { key: "shank", name: "Mouthpiece to the rein ring", help: "Straight" },
  { key: "sweep", name: "Shank swept back", degrees: true },
  { key: "slack", name: "Strap longer than snug", help: "A finger is ¾ in" },
  { key: "chin_behind", name: "Chin groove behind the mouthpiece" },
  { key: "headstall", name: "Ring to poll" },
];
const others: Record<Exclude<Mouthpiece, "leverage">, Field[]> = {
  snaffle: [
    { key: "width", name: "Between the rings" },
    { key: "ring", name: "Across a ring" },
  ],
  bitless: [
    { key: "length", name: "Nose button to heel knot" },
    { key: "jaw", name: "Nose button to where it bears" },
    { key: "thick", name: "Thickness" },
    { key: "lean", name: "Rein off its own line", degrees: true },
  ],
};

/** What is asked of a piece. */
export function fieldsOf(mouthpiece: Mouthpiece, typed: Typed): Field[] {
  if (mouthpiece !== "leverage") return others[mouthpiece];
  const chin: Field =
    typed["chin.by"] === "angle"
      ? { key: "chin.tight", name: "Shank turned when the strap is snug", degrees: true }
      : { key: "chin.below", name: "Chin groove below the mouthpiece", help: "Under 0 where it is above" };
  return [...leverage, chin];
}

/** What the form begins with: what was measured last; of a new leverage bit only what is much the same on all horses. */
export function begin(piece: Schemas["PieceOut"], units: Units): Typed {
  const m = piece.measured?.measures;
  const small = (metres: number) => typedFor(units, metres);
  const turned = (of: number) => String(Math.round(degrees(of) * 10) / 10);
  if (m?.kind === "leverage")
    return {
      purchase: small(m.purchase),
      shank: small(m.shank),
      sweep: turned(m.sweep),
      slack: small(m.slack),
      chin_behind: small(m.chin_behind),
      headstall: small(m.headstall),
      "chin.by": m.chin.by,
      ...(m.chin.by === "angle"
        ? { "chin.tight": turned(m.chin.tight) }
        : { "chin.below": small(m.chin.below) }),
    };
  if (m?.kind === "snaffle") return { width: small(m.width), ring: small(m.ring) };
  if (m?.kind === "bosal")
    return { length: small(m.length), jaw: small(m.jaw), thick: small(m.thick), lean: turned(m.lean) };
  return piece.mouthpiece === "leverage" ? { headstall: small(POLL), "chin.by": "tape" } : {};
}

/** The measures that were typed, or none while something is missing or is no number. */
export function measuresOf(mouthpiece: Mouthpiece, typed: Typed, units: Units): Schemas["Measures"] | null {
  const fields = fieldsOf(mouthpiece, typed);
  const read = new Map<string, number>();
  for (const f of fields) {
    const text = typed[f.key] ?? "";
    const number = Number(text.replace(",", ".").replace("−", "-"));
    const value = f.degrees
      ? text.trim() !== "" && Number.isFinite(number)
        ? radians(number)
        : null
      : typedSmall(units, text);
    if (value === null) return null;
    read.set(f.key, value);
  }
  const of = (key: string) => read.get(key) ?? 0;
  switch (mouthpiece) {
    case "leverage":
      return {
        kind: "leverage",
        purchase: of("purchase"),
        shank: of("shank"),
        sweep: of("sweep"),
        slack: of("slack"),
        chin_behind: of("chin_behind"),
        chin:
          typed["chin.by"] === "angle"
            ? { by: "angle", tight: of("chin.tight") }
            : { by: "tape", below: of("chin.below") },
        headstall: of("headstall"),
        give: GIVE,
      };
    case "snaffle":
      return { kind: "snaffle", width: of("width"), ring: of("ring") };
    case "bitless":
      return { kind: "bosal", length: of("length"), jaw: of("jaw"), thick: of("thick"), lean: of("lean") };
  }
}
