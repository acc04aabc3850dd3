import type { Schemas } from "../../api/client";
import { entriesOf, type Entry, type TackLog } from "../../parts/tack-log";

type Gear = Schemas["GearOut"];

/** A second change within this is putting the first one right. */
const SLIP_MS = 60_000;

/** Ids of what the horse wears now: as it was last changed, else as the ride began. */
export function wornNow(events: Entry[], begun: string[]): string[] {
  return entriesOf(events, "worn").at(-1)?.event.gear ?? begun;
}

/** A bit takes the place of the bit; a bosal goes under a leverage bit, or takes the place of any other. */
export function changed(worn: string[], tapped: Gear, all: Gear[]): string[] {
  const of = (id: string) => all.find((g) => g.id === id);
  if (worn.includes(tapped.id)) {
    const rest = worn.filter((id) => id !== tapped.id);
    return rest.some((id) => of(id)?.mouthpiece) ? rest : worn;
  }
  const goesWith = (other: Gear | undefined) =>
    !other?.mouthpiece ||
    (tapped.mouthpiece === "bitless" && other.mouthpiece === "leverage") ||
    (tapped.mouthpiece === "leverage" && other.mouthpiece === "bitless");
  return [...worn.filter((id) => goesWith(of(id))), tapped.id];
}

/** A bosal under a leverage bit: two sets of reins. */
export function isTwoRein(worn: string[], all: Gear[]): boolean {
  const wears = (mouthpiece: Gear["mouthpiece"]) =>
    all.some((g) => worn.includes(g.id) && g.mouthpiece === mouthpiece);
  return wears("bitless") && wears("leverage");
}

/** Changes what is worn from now on. Within a minute of the last change, that one is put right instead. */
export function change(log: TackLog, begun: string[], gear: string[]) {
  const changes = entriesOf(log.events, "worn");
  const last = changes.at(-1);
  const before = changes.at(-2)?.event.gear ?? begun;
  const same = (a: string[], b: string[]) => a.length === b.length && a.every((id) => b.includes(id));
  if (last && Date.now() - Date.parse(last.entry.at) < SLIP_MS) {
    if (same(gear, before)) log.takeBack(last.entry);
    else log.correct(last.entry, { kind: "worn", gear });
  } else log.log({ kind: "worn", gear });
}
