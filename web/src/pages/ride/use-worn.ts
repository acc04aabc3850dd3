import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { horseGear } from "../../api/queries";
import { useTackLog } from "../../parts/tack-log";
import { change, changed, isTwoRein, wornNow } from "./worn";

/** What the horse of a ride wears now, and how it is changed. */
export function useWorn(ride: Schemas["RideDetail"], begun: string[]) {
  const log = useTackLog(ride.id);
  const gear = useQuery(horseGear(ride.horse_id)).data?.items ?? [];
  const worn = wornNow(log.events, begun);
  const pieces = gear.filter((g) => g.mouthpiece && !g.archived);
  const tap = (piece: Schemas["GearOut"]) => {
    const next = changed(worn, piece, gear);
    if (next !== worn) change(log, begun, next);
  };
  const name = pieces
    .filter((g) => worn.includes(g.id))
    .map((g) => g.name)
    .join(" and ");
  return { log, worn, pieces, name, tap, isTwoRein: isTwoRein(worn, gear) };
}
export type Tack = ReturnType<typeof useWorn>;
