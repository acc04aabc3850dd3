import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { api, ask, type Schemas } from "../../api/client";

/** What comes of a run at the fence, worked out anew with each change; the answer before stays until it is there. */
export function useFence(asked: Schemas["FenceIn"]) {
  const latest = useDeferredValue(asked);
  return useQuery({
    queryKey: ["fence", latest],
    queryFn: ({ signal }) => ask(api.POST("/api/cattle-fence", { body: latest, signal })),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    staleTime: Infinity,
    retry: false,
  });
}
