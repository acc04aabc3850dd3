import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import type { Where } from "../../parts/where";
import { horseRides, people, plannedOn } from "../../api/queries";

/** A ride of its own, and not one that was planned. */
export const OWN = "own";

/** What a ride entered afterwards is: the planned one that it fills, who rode and where. Each is what was planned, else what was last,
 * until someone chooses. */
export type WhichRide = {
  planned: Schemas["RideOut"][];
  /** Id of the planned ride that it fills, [`OWN`], or null while that is unclear. */
  fills: string | null;
  rider: string;
  at: Where;
  riders: { id: string; name: string }[];
  choose: (choice: { fills?: string; rider?: string; at?: Where }) => void;
};

type Chosen = { date: string; fills?: string; rider?: string; at?: Where };

const whereOf = (ride?: Schemas["RideOut"]): Where => ({
  place: ride?.place ?? "arena",
  ground_id: ride?.ground_id ?? null,
});

export function useWhichRide(horse: string, date: string, me: { id: string; name: string }): WhichRide {
  const planned = useQuery({ ...plannedOn(horse, date), enabled: date !== "" }).data?.items ?? [];
  const last = useQuery(horseRides(horse)).data?.items[0];
  const riders = useQuery(people()).data?.items ?? [];
  const [kept, setChosen] = useState<Chosen>({ date });
  // Another day has other rides.
  const chosen: Chosen = kept.date === date ? kept : { ...kept, date, fills: undefined };
  const only = planned.length === 1 ? planned[0]?.id : undefined;
  const fills = chosen.fills ?? (planned.length === 0 ? OWN : (only ?? null));
  const filled = planned.find((ride) => ride.id === fills);
  const known = riders.some((r) => r.id === me.id) ? riders : [me, ...riders];
  return {
    planned,
    fills,
    rider: chosen.rider ?? filled?.rider_id ?? last?.rider_id ?? me.id,
    at: chosen.at ?? whereOf(filled ?? last),
    riders: known,
    choose: (choice) => setChosen({ ...chosen, ...choice, date }),
  };
}
