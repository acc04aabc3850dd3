import type { Schemas } from "../../api/client";

type Go = Schemas["GoOut"];

/** Goes by visit: those of a horse that follow each other. */
export function visitsOf(goes: Go[]): Go[][] {
  const visits: Go[][] = [];
  for (const go of goes) {
    const last = visits.at(-1);
    if (last?.[0]?.horse_id === go.horse_id) last.push(go);
    else visits.push([go]);
  }
  return visits;
}

/** All slots of the day, with another cow in one of them. */
export function swapped(goes: Go[], slots: number, slot: number, cow: string): Schemas["DrawIn"]["goes"] {
  return Array.from({ length: slots }, (_, n) => {
    const go = goes.find((g) => g.slot === n + 1);
    return go ? { horse_id: go.horse_id, cow_id: go.slot === slot ? cow : go.cow_id } : null;
  });
}
