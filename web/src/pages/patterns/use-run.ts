import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { api, ask, type Schemas } from "../../api/client";
import type { SetUp } from "./draft";

/** The quickest run of a set-up, worked out anew with each change; the one before stays until it is there. */
export function useRun(setUp: SetUp | null, horse: Schemas["HorseAbility"] | null, ground: string | null) {
  const latest = useDeferredValue(setUp);
  return useQuery({
    queryKey: ["run", latest, horse, ground],
    queryFn: ({ signal }) => {
      if (!latest || !horse) throw new Error("there is nothing to run");
      return ask(
        api.POST("/api/patterns/run", { body: { set_up: latest, horse, ground_id: ground }, signal }),
      );
    },
    enabled: latest !== null && horse !== null,
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    staleTime: Infinity,
    retry: false,
  });
}
