import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";

/** What comes of a text as it is typed: its faults, and the last ride that had none. */
export function useFigure(text: string, ground: string, horse: string, by: string | null) {
  const latest = useDeferredValue(text);
  const answer = useQuery({
    queryKey: ["figure", latest, ground, horse, by],
    queryFn: ({ signal }) =>
      ask(
        api.POST("/api/figures/ride", {
          body: { text: latest, ground_id: ground, horse_id: horse, by },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    staleTime: 60_000,
    retry: false,
  });
  const [ridden, setRidden] = useState<Schemas["RiddenOut"] | null>(null);
  const now = answer.data?.ridden ?? null;
  if (now && now !== ridden) setRidden(now);
  return { faults: answer.data?.faults ?? [], ridden: now ?? ridden, error: answer.error };
}
