import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, ask } from "../api/client";
import { today } from "../api/queries";
import { newId } from "./ids";
import { useMe } from "./me";

/** Today's ride of a horse: the one that is not closed yet, and a way to it that makes one where there is none. */
export function useRideNow(horse: string) {
  const me = useMe();
  const client = useQueryClient();
  const navigate = useNavigate();
  const { data } = useQuery(today);
  const open = data?.rides.find((r) => r.ride.horse_id === horse && r.ride.state !== "closed")?.ride;
  const [id] = useState(() => newId());
  const go = useMutation({
    mutationFn: async (search: string) => {
      if (!open)
        await ask(
          api.PUT("/api/rides/{id}", {
            params: { path: { id } },
            body: {
              horse_id: horse,
              rider_id: me.id,
              date: data?.date ?? me.today,
              starts_at: null,
              entered: "pen",
              sets: [],
              note: "",
              signs: [],
            },
          }),
        );
      return `/ride/${open?.id ?? id}${search}`;
    },
    onSuccess: (to) => {
      void client.invalidateQueries({ queryKey: today.queryKey });
      void navigate(to);
    },
  });
  return { open, ready: data !== undefined, go };
}
