import { useCallback, useMemo, useState } from "react";
import type { Schemas } from "../api/client";
import { put, useOutbox, type Item } from "../offline/outbox";
import { newId } from "./ids";
import { useMe } from "./me";

/** What devices log of a ride besides asks, by kind. */
export type Logged = {
  tack: Schemas["TackEventIn"];
  cattle: Schemas["CattleEventIn"];
  exercise: Schemas["ExerciseEventIn"];
};
export type LogKind = keyof Logged;
export type EventOf<K extends LogKind> = Logged[K]["event"];
export type Entry<K extends LogKind> = {
  id: string;
  at: string;
  event: EventOf<K>;
  version: number;
  who: string;
};

const isOf = (kind: LogKind, ride: string, item: Item) => item.kind === kind && item.ride === ride;

/** What the server knows with what waits on this device laid over it, in order; without what was taken back. */
export function laidOver<K extends LogKind>(
  kind: K,
  known: Entry<K>[],
  waiting: Item[],
  ride: string,
  who: string,
): Entry<K>[] {
  const all = new Map(known.map((entry) => [entry.id, entry]));
  for (const item of waiting) {
    if (!isOf(kind, ride, item)) continue;
    const { at, event, version, removed } = item.body as Logged[K];
    if ((all.get(item.rep)?.version ?? 0) > version) continue;
    if (removed) all.delete(item.rep);
    else all.set(item.rep, { id: item.rep, at, event, version, who });
  }
  return [...all.values()].sort((a, b) => a.at.localeCompare(b.at) || a.id.localeCompare(b.id));
}

/** A log of a ride: what is in it, and how more gets there. Everything goes through the outbox. `onSend` hears of it first. */
export function useRideLog<K extends LogKind>(
  kind: K,
  ride: string,
  known: Entry<K>[] | undefined,
  onSend?: (entry: Entry<K>, removed: boolean) => void,
) {
  const { name: who } = useMe();
  const { waiting } = useOutbox();
  // What this page logged stays in sight, also where a response comes late that was asked for before it.
  const [mine, setMine] = useState<Item[]>([]);
  const events = useMemo(
    () => laidOver(kind, known ?? [], [...mine, ...waiting], ride, who),
    [kind, known, mine, waiting, ride, who],
  );
  const unsent = waiting.filter((item) => isOf(kind, ride, item)).length;
  const send = useCallback(
    (entry: Entry<K>, removed: boolean) => {
      const { id, at, event, version } = entry;
      onSend?.(entry, removed);
      // The compiler does not see that kind and body go together.
      const item = { kind, ride, rep: id, body: { at, event, version, removed } } as Item;
      setMine((all) => [...all, item]);
      put(item);
    },
    [kind, ride, onSend],
  );
  const log = useCallback(
    (event: EventOf<K>, id = newId()) =>
      send({ id, at: new Date().toISOString(), event, version: 1, who }, false),
    [send, who],
  );
  const correct = useCallback(
    (entry: Entry<K>, event: EventOf<K>) => send({ ...entry, event, version: entry.version + 1 }, false),
    [send],
  );
  const takeBack = useCallback(
    (entry: Entry<K>) => send({ ...entry, version: entry.version + 1 }, true),
    [send],
  );
  return { events, waiting, unsent, log, correct, takeBack };
}
