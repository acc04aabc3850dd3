import type { Schemas } from "../../api/client";
import type { Item } from "../../offline/outbox";
import type { Gait, Side, Weight } from "../../parts/words";
import { newId } from "../../parts/ids";
import { countedIn, mergeCounted, setOf, withCounted, type Counted } from "./counted";

/** A rep as the page knows it: shown at once, sent by the outbox. */
export type Rep = {
  id: string;
  set: Schemas["SetIn"];
  position: number;
  outcome: Schemas["Outcome"];
  missing: Schemas["Part"] | null;
  weight: Weight;
  seconds: number | null;
  faults: string[];
  /** When the ask began, by this device's clock. */
  askedAt: string | null;
  removed: boolean;
  version: number;
};

/** Who rides now and which cow, where that is not what the ride says. */
export type Around = { riderId: string | null; cow: string | null };

/** An ask that has been let go of and waits for its outcome and weight. `of` is set when a logged rep is corrected. */
export type Draft = {
  of: Rep | null;
  side: Side;
  rung: string;
  gait: Gait;
  seconds: number | null;
  outcome: Schemas["Outcome"] | null;
  missing: Schemas["Part"] | null;
  weight: Weight | null;
  faults: string[];
  around: Around;
  askedAt: string | null;
};

export type Session = { reps: Rep[]; drafts: Draft[]; counted: Counted[] };

export type Event =
  | { do: "ask"; side: Side; rung: string; gait: Gait; seconds: number | null; around: Around; at: string }
  | { do: "count"; counted: Counted }
  | { do: "merge"; ride: Schemas["RideDetail"]; waiting: Item[] }
  | { do: "fill"; with: Partial<Pick<Draft, "outcome" | "missing" | "weight" | "seconds" | "faults">> }
  | { do: "open"; rep: Rep }
  | { do: "drop" }
  | { do: "keep"; rep: Rep };

/** What the server knows of a ride, with what waits on this device laid over it. */
export function begin(ride: Schemas["RideDetail"], waiting: Item[]): Session {
  const known = ride.sets.flatMap((told) =>
    told.reps.map((r) => ({
      ...r,
      askedAt: r.asked_at ?? null,
      missing: r.missing ?? null,
      seconds: r.seconds ?? null,
      faults: r.faults ?? [],
      set: setOf(told),
    })),
  );
  const reps = new Map<string, Rep>(known.map((r) => [r.id, r]));
  for (const item of waiting) {
    if (item.kind === "log") {
      const b = item.body;
      reps.set(item.rep, {
        ...b,
        id: item.rep,
        missing: b.missing ?? null,
        seconds: b.seconds ?? null,
        faults: b.faults ?? [],
        askedAt: b.asked_at ?? null,
        removed: false,
        version: 1,
      });
    } else if (item.kind === "correct") {
      const before = reps.get(item.rep);
      const b = item.body;
      if (before)
        reps.set(item.rep, {
          ...before,
          ...b,
          missing: b.missing ?? null,
          seconds: b.seconds ?? null,
          faults: b.faults ?? [],
          removed: b.removed ?? false,
          version: b.version + 1,
        });
    }
  }
  return { reps: [...reps.values()], drafts: [], counted: countedIn(ride, waiting) };
}

export function step(session: Session, event: Event): Session {
  const [first, ...rest] = session.drafts;
  switch (event.do) {
    case "ask": {
      const { side, rung, gait, seconds, around, at } = event;
      const draft: Draft = {
        of: null,
        side,
        rung,
        gait,
        seconds,
        outcome: null,
        missing: null,
        weight: null,
        faults: [],
        around,
        askedAt: at,
      };
      return { ...session, drafts: [...session.drafts, draft] };
    }
    case "count":
      return { ...session, counted: withCounted(session.counted, event.counted) };
    case "merge": {
      // What another device logged comes in; what is newer here stays as it is.
      const theirs = begin(event.ride, event.waiting);
      const mine = new Map(session.reps.map((r) => [r.id, r]));
      const reps = theirs.reps.map((r) => {
        const here = mine.get(r.id);
        return here && here.version >= r.version ? here : r;
      });
      const known = new Set(reps.map((r) => r.id));
      return {
        drafts: session.drafts,
        reps: [...reps, ...session.reps.filter((r) => !known.has(r.id))],
        counted: mergeCounted(session.counted, theirs.counted),
      };
    }
    case "fill":
      return first ? { ...session, drafts: [{ ...first, ...event.with }, ...rest] } : session;
    case "open": {
      const { rep } = event;
      const draft: Draft = {
        of: rep,
        side: rep.set.side,
        rung: rep.set.rung,
        gait: rep.set.gait,
        seconds: rep.seconds,
        outcome: rep.outcome,
        missing: rep.missing,
        weight: rep.weight,
        faults: rep.faults,
        around: { riderId: rep.set.rider_id ?? null, cow: rep.set.cow ?? null },
        askedAt: rep.askedAt,
      };
      return { ...session, drafts: [draft, ...session.drafts.filter((d) => !d.of)] };
    }
    case "drop":
      return { ...session, drafts: rest };
    case "keep": {
      const reps = session.reps.some((r) => r.id === event.rep.id)
        ? session.reps.map((r) => (r.id === event.rep.id ? event.rep : r))
        : [...session.reps, event.rep];
      return { ...session, reps };
    }
  }
}

/** The set that a new rep goes into: the ride's last if it asks the same, else the last of its kind, else a new one. */
export function setFor(session: Session, draft: Draft): Schemas["SetIn"] {
  const { riderId, cow } = draft.around;
  const same = session.reps.findLast(
    ({ set }) =>
      set.rung === draft.rung &&
      set.gait === draft.gait &&
      set.side === draft.side &&
      (set.rider_id ?? null) === riderId &&
      (set.cow ?? null) === cow,
  );
  return same?.set ?? newSet(session, draft, draft.side, draft.around);
}

/** A set behind all others of the ride. */
export function newSet(
  session: Session,
  step: { rung: string; gait: Gait },
  side: Side,
  around: Around,
): Schemas["SetIn"] {
  const positions = [...session.reps, ...session.counted].map((r) => r.set.position);
  const position = Math.max(-1, ...positions) + 1;
  const id = newId();
  return { id, position, rung: step.rung, gait: step.gait, side, rider_id: around.riderId, cow: around.cow };
}

/** A finished draft as a rep; nothing while outcome or weight is open. */
export function finished(session: Session, draft: Draft): Rep | null {
  const { outcome, weight, missing, seconds, faults } = draft;
  if (!outcome || !weight) return null;
  if (draft.of)
    return {
      ...draft.of,
      outcome,
      missing,
      weight,
      seconds,
      faults,
      removed: false,
      version: draft.of.version + 1,
    };
  const set = setFor(session, draft);
  const position = session.reps.filter((r) => r.set.id === set.id).length;
  return {
    id: newId(),
    set,
    position,
    outcome,
    missing,
    weight,
    seconds,
    faults,
    askedAt: draft.askedAt,
    removed: false,
    version: 1,
  };
}

/** What was logged last and is still there: a rep or a count. */
export function lastLogged(session: Session): { rep: Rep } | { counted: Counted } | null {
  const rep = session.reps.findLast((r) => !r.removed);
  const counted = session.counted.findLast((c) => !c.removed);
  if (counted && (!rep || (counted.askedAt ?? "") > (rep.askedAt ?? ""))) return { counted };
  return rep ? { rep } : null;
}

const answered = (rep: Rep) => ({
  outcome: rep.outcome,
  missing: rep.missing,
  weight: rep.weight,
  seconds: rep.seconds,
  faults: rep.faults,
});

/** How a new rep is sent. */
export const logItem = (ride: string, rep: Rep): Item => ({
  kind: "log",
  ride,
  rep: rep.id,
  body: { set: rep.set, position: rep.position, asked_at: rep.askedAt, ...answered(rep) },
});

/** How a corrected or removed rep is sent: made from the version before it. */
export const correctItem = (ride: string, rep: Rep): Item => ({
  kind: "correct",
  ride,
  rep: rep.id,
  body: { version: rep.version - 1, removed: rep.removed, ...answered(rep) },
});
