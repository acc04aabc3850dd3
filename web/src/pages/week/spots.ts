import { placeName } from "../../parts/words";
import type { Ride, Week } from "./use-week";

export type Lane = "rider" | "place";
/** Where a ride is put down: a day of a lane. */
export type Spot = { day: number; lane: string };

/** The lanes of a week: riders or places, in the order in which the server names them. */
export function lanesOf(week: Pick<Week, "riders" | "places">, by: Lane): { id: string; name: string }[] {
  return by === "rider"
    ? week.riders.map((r) => ({ id: r.id, name: r.name }))
    : week.places.map((p) => ({ id: p.place, name: placeName[p.place] }));
}

/** The rides of each day of each lane, by the hour. */
export function ridesBySpot(rides: Ride[], by: Lane): (spot: Spot) => Ride[] {
  const spots = new Map<string, Ride[]>();
  for (const ride of rides) {
    const spot = `${ride[by]}|${ride.day}`;
    const there = spots.get(spot);
    if (there) there.push(ride);
    else spots.set(spot, [ride]);
  }
  for (const there of spots.values()) there.sort((a, b) => (a.start + a.work < b.start + b.work ? -1 : 1));
  return ({ day, lane }) => spots.get(`${lane}|${day}`) ?? [];
}
