import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import type { Schemas } from "../api/client";
import { rideCattle } from "../api/queries";
import { useRideLog } from "./ride-log";

export type CattleEvent = Schemas["CattleEventIn"]["event"];
export type CattleEntry = Schemas["CattleEventOut"];
export type TurnEvent = Extract<CattleEvent, { kind: "turn" }>;

/** The cow that is worked now: that of the last event, unless the herd was left since. */
export function cowNow(events: CattleEntry[]): string | null {
  const last = events.map((entry) => entry.event).findLast((event) => event.kind !== "flag");
  return last && "cow" in last ? last.cow : null;
}

/** Cattle on a ride: what was logged, and how more is. */
export function useCattleLog(ride: string, on: boolean) {
  const client = useQueryClient();
  const seen = useQuery({ ...rideCattle(ride), enabled: on }).data;
  const log = useRideLog("cattle", ride, seen?.events);
  const { unsent } = log;
  // Once all is sent, what comes next is asked anew.
  useEffect(() => {
    if (on && unsent === 0) void client.invalidateQueries({ queryKey: rideCattle(ride).queryKey });
  }, [client, on, ride, unsent]);
  return { ...log, seen };
}
export type CattleLog = ReturnType<typeof useCattleLog>;
