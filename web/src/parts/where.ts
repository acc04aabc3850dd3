import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import { grounds } from "../api/queries";
import { placeName } from "./words";

type Place = Schemas["Place"];
/** Where a ride is: on one of the barn's own grounds, or at a place of a kind. */
export type Where = { place: Place; ground_id: string | null };

/** Where a ride is, in words. */
export const whereName = (ride: { place: Place; ground_name?: string | null }) =>
  ride.ground_name ?? placeName[ride.place];

/** Where as the value of a choice. */
export const whereKey = (at: Where) => at.ground_id ?? at.place;

/** Where a ride can be: the barn's own grounds, then the kinds of which it has none, and where it is now. */
export function useWheres(now?: Where): { key: string; name: string; at: Where }[] {
  const own = useQuery(grounds).data?.items ?? [];
  const all = own.map((g) => ({ key: g.id, name: g.name, at: { place: g.place, ground_id: g.id } }));
  const kinds = Object.entries(placeName) as [Place, string][];
  const bare = kinds.filter(([place]) => {
    const here = now?.place === place && !now.ground_id;
    return here || own.every((g) => g.place !== place);
  });
  return [...all, ...bare.map(([place, name]) => ({ key: place, name, at: { place, ground_id: null } }))];
}
