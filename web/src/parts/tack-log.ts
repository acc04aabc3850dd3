import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import type { Schemas } from "../api/client";
import { rideTack } from "../api/queries";
import type { Item } from "../offline/outbox";
import { useRideLog } from "./ride-log";

export type TackEvent = Schemas["TackEventIn"]["event"];
export type Entry = Schemas["TackEventOut"];
export type EventOf<K extends TackEvent["kind"]> = Extract<TackEvent, { kind: K }>;
type Seen = Schemas["RideTackOut"];
type Ask = EventOf<"ask">;

/** On how many reins to ask next at a gait: what the server told, less what was asked since it did. */
export function nextReins(seen: Seen | undefined, waiting: Item[], ride: string, gait: Schemas["Gait"]) {
  const order = seen?.orders.find((o) => o.gait === gait)?.reins ?? [];
  const known = new Set(seen?.events.map((entry) => entry.id));
  const since = waiting.filter(
    (item) =>
      item.kind === "tack" &&
      item.ride === ride &&
      !known.has(item.rep) &&
      !item.body.removed &&
      item.body.event.kind === "ask" &&
      item.body.event.gait === gait,
  );
  return order[since.length] ?? null;
}

/** The page's own copy with an event in it: what is sent stays in sight until the server is asked again. */
function withEvent(seen: Seen, entry: Entry, removed: boolean): Seen {
  const isNew = !seen.events.some((e) => e.id === entry.id);
  const events = seen.events.filter((e) => e.id !== entry.id);
  const { event } = entry;
  const orders =
    isNew && !removed && event.kind === "ask"
      ? seen.orders.map((o) => (o.gait === event.gait ? { ...o, reins: o.reins.slice(1) } : o))
      : seen.orders;
  return { ...seen, orders, events: removed ? events : [...events, entry] };
}

/** The tack of a ride: what was logged of it, and how more is. */
export function useTackLog(ride: string) {
  const client = useQueryClient();
  const seen = useQuery(rideTack(ride)).data;
  const keepInSight = useCallback(
    (entry: Entry, removed: boolean) =>
      client.setQueryData(rideTack(ride).queryKey, (old) => old && withEvent(old, entry, removed)),
    [client, ride],
  );
  return { ...useRideLog("tack", ride, seen?.events, keepInSight), seen };
}
export type TackLog = ReturnType<typeof useTackLog>;

/** The entries of one kind, in order. */
export const entriesOf = <K extends TackEvent["kind"]>(events: Entry[], kind: K) =>
  events.flatMap((entry) => (entry.event.kind === kind ? [{ entry, event: entry.event as EventOf<K> }] : []));

/** Answers of an ask of the test for a brace: what the head and the jaw did, in one tap. */
export const askAnswers: { name: string; answer: Pick<Ask, "braced" | "head"> }[] = [
  { name: "Gave, head low", answer: { braced: false, head: "low" } },
  { name: "Gave", answer: { braced: false, head: "level" } },
  { name: "Head up", answer: { braced: true, head: "up" } },
  { name: "Set its jaw", answer: { braced: true, head: "level" } },
];
