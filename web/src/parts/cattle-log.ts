import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import type { Schemas } from "../api/client";
import { rideCattle } from "../api/queries";
import { put, useOutbox, type Item } from "../offline/outbox";
import { newId } from "./ids";
import { useMe } from "./me";

export type CattleEvent = Schemas["CattleEventIn"]["event"];
export type CattleEntry = Schemas["CattleEventOut"];
export type TurnEvent = Extract<CattleEvent, { kind: "turn" }>;

/** What the server knows with what waits on this device laid over it, in order; without what was taken back. */
export function loggedOnCattle(known: CattleEntry[], waiting: Item[], ride: string, who: string) {
  const all = new Map(known.map((entry) => [entry.id, entry]));
  for (const item of waiting) {
    if (item.kind !== "cattle" || item.ride !== ride) continue;
    const { at, event, version, removed } = item.body;
    if ((all.get(item.rep)?.version ?? 0) > version) continue;
    if (removed) all.delete(item.rep);
    else all.set(item.rep, { id: item.rep, at, event, version, who });
  }
  return [...all.values()].sort((a, b) => a.at.localeCompare(b.at) || a.id.localeCompare(b.id));
}

/** The cow that is worked now: that of the last event, unless the herd was left since. */
export function cowNow(events: CattleEntry[]): string | null {
  const last = events.map((entry) => entry.event).findLast((event) => event.kind !== "flag");
  return last && "cow" in last ? last.cow : null;
}

/** Cattle on a ride: what was logged, and how more is. Everything goes through the outbox. */
export function useCattleLog(ride: string, on: boolean) {
  const client = useQueryClient();
  const { name: who } = useMe();
  const query = useQuery({ ...rideCattle(ride), enabled: on });
  const { waiting } = useOutbox();
  // What this page logged stays in sight, also where an answer comes late that was asked for before it.
  const [mine, setMine] = useState<Item[]>([]);
  const events = useMemo(
    () => loggedOnCattle(query.data?.events ?? [], [...mine, ...waiting], ride, who),
    [query.data, mine, waiting, ride, who],
  );
  const unsent = waiting.filter((item) => item.kind === "cattle" && item.ride === ride).length;
  // Once all is sent, what comes next is asked anew.
  useEffect(() => {
    if (on && unsent === 0) void client.invalidateQueries({ queryKey: rideCattle(ride).queryKey });
  }, [client, on, ride, unsent]);
  const send = useCallback(
    ({ id, at, event, version }: CattleEntry, removed: boolean) => {
      const item: Item = { kind: "cattle", ride, rep: id, body: { at, event, version, removed } };
      setMine((all) => [...all, item]);
      put(item);
    },
    [ride],
  );
  const log = useCallback(
    (event: CattleEvent) =>
      send({ id: newId(), at: new Date().toISOString(), event, version: 1, who }, false),
    [send, who],
  );
  const correct = useCallback(
    (entry: CattleEntry, event: CattleEvent) => send({ ...entry, event, version: entry.version + 1 }, false),
    [send],
  );
  const takeBack = useCallback(
    (entry: CattleEntry) => send({ ...entry, version: entry.version + 1 }, true),
    [send],
  );
  return { seen: query.data, events, unsent, log, correct, takeBack };
}
export type CattleLog = ReturnType<typeof useCattleLog>;
