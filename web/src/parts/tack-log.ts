import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import type { Schemas } from "../api/client";
import { rideTack } from "../api/queries";
import { put, useOutbox, type Item } from "../offline/outbox";
import { newId } from "./ids";
import { useMe } from "./me";

export type TackEvent = Schemas["TackEventIn"]["event"];
export type Entry = Schemas["TackEventOut"];
export type EventOf<K extends TackEvent["kind"]> = Extract<TackEvent, { kind: K }>;
type Seen = Schemas["RideTackOut"];
type Ask = EventOf<"ask">;

/** What the server knows with what waits on this device laid over it, in order; without what was taken back. */
export function logged(known: Entry[], waiting: Item[], ride: string, who: string): Entry[] {
  const all = new Map(known.map((entry) => [entry.id, entry]));
  for (const item of waiting) {
    if (item.kind !== "tack" || item.ride !== ride) continue;
    const { at, event, version, removed } = item.body;
    if ((all.get(item.rep)?.version ?? 0) > version) continue;
    if (removed) all.delete(item.rep);
    else all.set(item.rep, { id: item.rep, at, event, version, who });
  }
  return [...all.values()].sort((a, b) => a.at.localeCompare(b.at) || a.id.localeCompare(b.id));
}

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

/** The tack of a ride: what was logged of it, and how more is. Everything goes through the outbox. */
export function useTackLog(ride: string) {
  const client = useQueryClient();
  const { name: who } = useMe();
  const seen = useQuery(rideTack(ride)).data;
  const { waiting } = useOutbox();
  // What this page logged stays in sight, also where an answer comes late that was asked for before it.
  const [mine, setMine] = useState<Item[]>([]);
  const events = useMemo(
    () => logged(seen?.events ?? [], [...mine, ...waiting], ride, who),
    [seen, mine, waiting, ride, who],
  );
  const send = useCallback(
    (entry: Entry, removed: boolean) => {
      const { id, at, event, version } = entry;
      client.setQueryData(rideTack(ride).queryKey, (old) => old && withEvent(old, entry, removed));
      const item: Item = { kind: "tack", ride, rep: id, body: { at, event, version, removed } };
      setMine((all) => [...all, item]);
      put(item);
    },
    [client, ride],
  );
  const log = useCallback(
    (event: TackEvent) => send({ id: newId(), at: new Date().toISOString(), event, version: 1, who }, false),
    [send, who],
  );
  const correct = useCallback(
    (entry: Entry, event: TackEvent) => send({ ...entry, event, version: entry.version + 1 }, false),
    [send],
  );
  const takeBack = useCallback(
    (entry: Entry) => send({ ...entry, version: entry.version + 1 }, true),
    [send],
  );
  return { seen, events, waiting, log, correct, takeBack };
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
