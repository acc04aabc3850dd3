import type { Item, Refusal } from "../offline/outbox";

export type LogItem = Extract<Item, { kind: "log" | "count" }>;
export type RefusedLog = Refusal & { item: LogItem };

const isLog = (refusal: Refusal): refusal is RefusedLog =>
  refusal.item.kind === "log" || refusal.item.kind === "count";

/** Refused asks and counts by the set that they were logged in; what is neither is left to whoever calls. */
export function refusedSets(refused: Refusal[]): RefusedLog[][] {
  const sets = new Map<string, RefusedLog[]>();
  for (const r of refused.filter(isLog)) {
    const key = `${r.item.ride} ${r.item.body.set.id} ${r.why}`;
    sets.set(key, [...(sets.get(key) ?? []), r]);
  }
  return [...sets.values()];
}
