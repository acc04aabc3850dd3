import type { Schemas } from "../../api/client";
import type { Item } from "../../offline/outbox";
import type { Count } from "../../parts/counts";

/** A count as the page knows it: shown at once, sent by the outbox. Its id is its set's. */
export type Counted = {
  set: Schemas["SetIn"];
  count: Count;
  faults: string[];
  /** When it ended, by this device's clock. */
  askedAt: string | null;
  removed: boolean;
  version: number;
};

/** The set alone, as it is sent: without what was logged in it. */
export function setOf({
  id,
  position,
  rung,
  gait,
  side,
  rider_id,
  cow,
}: Schemas["SetOut"]): Schemas["SetIn"] {
  return { id, position, rung, gait, side, rider_id, cow };
}

/** What the server knows of a ride's counts, with what waits on this device laid over it. */
export function countedIn(ride: Schemas["RideDetail"], waiting: Item[]): Counted[] {
  const all = new Map<string, Counted>();
  for (const told of ride.sets) {
    const c = told.counted;
    if (!c) continue;
    const { count, faults = [], removed, version } = c;
    all.set(told.id, { set: setOf(told), count, faults, askedAt: c.asked_at ?? null, removed, version });
  }
  for (const item of waiting) {
    if (item.kind === "count") {
      const { set, count, faults = [], asked_at } = item.body;
      all.set(item.rep, { set, count, faults, askedAt: asked_at ?? null, removed: false, version: 1 });
    } else if (item.kind === "correct-count") {
      const before = all.get(item.rep);
      const { count, faults = [], removed = false, version } = item.body;
      if (before) all.set(item.rep, { ...before, count, faults, removed, version: version + 1 });
    }
  }
  return [...all.values()];
}

/** What another device counted comes in; what is newer here stays as it is. */
export function mergeCounted(mine: Counted[], theirs: Counted[]): Counted[] {
  const here = new Map(mine.map((c) => [c.set.id, c]));
  const known = theirs.map((t) => {
    const own = here.get(t.set.id);
    return own && own.version >= t.version ? own : t;
  });
  const ids = new Set(known.map((c) => c.set.id));
  return [...known, ...mine.filter((c) => !ids.has(c.set.id))];
}

/** A list with one count as it is now. */
export function withCounted(all: Counted[], now: Counted): Counted[] {
  return all.some((c) => c.set.id === now.set.id)
    ? all.map((c) => (c.set.id === now.set.id ? now : c))
    : [...all, now];
}

/** How a count is sent: new, or corrected from the version before it. */
export function countItem(ride: string, counted: Counted): Item {
  const { set, count, faults, askedAt, removed, version } = counted;
  return version === 1
    ? { kind: "count", ride, rep: set.id, body: { set, count, faults, asked_at: askedAt } }
    : {
        kind: "correct-count",
        ride,
        rep: set.id,
        body: { version: version - 1, count, faults, removed },
      };
}
