import type { Schemas } from "../../api/client";

export type SetUp = Schemas["SetUp"];
export type Spot = Schemas["Spot"];
export const spots: Spot[] = ["entry", "back", "exit"];
export const spotName: Record<Spot, string> = { entry: "In", back: "Behind", exit: "Out" };

/** A set-up that is being worked on, with all that it was before and what was undone. */
export type Draft = { now: SetUp; before: SetUp[]; after: SetUp[] };
export type Step =
  | { do: "open"; setUp: SetUp }
  /** A change that stands by itself. */
  | { do: "change"; to: SetUp }
  /** One of many little changes of one movement, which are undone together. */
  | { do: "drag"; to: SetUp; first: boolean }
  | { do: "undo" }
  | { do: "redo" };

export const opened = (setUp: SetUp): Draft => ({ now: setUp, before: [], after: [] });

/** Undo and redo without end: nothing that was on the bench is forgotten while the page is open. */
export function draft(state: Draft, step: Step): Draft {
  switch (step.do) {
    case "open":
      return opened(step.setUp);
    case "change":
      return { now: step.to, before: [...state.before, state.now], after: [] };
    case "drag":
      return step.first
        ? { now: step.to, before: [...state.before, state.now], after: [] }
        : { ...state, now: step.to };
    case "undo": {
      const last = state.before.at(-1);
      return last
        ? { now: last, before: state.before.slice(0, -1), after: [state.now, ...state.after] }
        : state;
    }
    case "redo": {
      const [next, ...after] = state.after;
      return next ? { now: next, before: [...state.before, state.now], after } : state;
    }
  }
}

/** The set-up with one barrel changed. */
export const withBarrel = (setUp: SetUp, n: number, change: Partial<Schemas["Barrel"]>): SetUp => ({
  ...setUp,
  barrels: setUp.barrels.map((b, k) => (k === n ? { ...b, ...change } : b)),
});

/** The set-up with a point moved: a barrel by its place, or the line. */
export function moved(setUp: SetUp, what: Handle, to: Schemas["Point"]): SetUp {
  if (what === "line") return { ...setUp, start: to, finish: to };
  return withBarrel(setUp, what, { at: to });
}

/** What can be taken hold of: the line or a barrel. */
export type Handle = "line" | number;
export const placeOf = (setUp: SetUp, what: Handle) =>
  what === "line" ? setUp.start : setUp.barrels[what]?.at;
export const handleName = (what: Handle) => (what === "line" ? "Line" : `Barrel ${what + 1}`);

/** The set-up of a file, as it is given out. What does not hold in it is told when it is worked out. */
export function setUpOf(text: string): SetUp {
  let read: Partial<SetUp>;
  try {
    read = JSON.parse(text) as Partial<SetUp>;
  } catch {
    throw new Error("This file is not JSON.");
  }
  const point = (p?: Schemas["Point"]) => typeof p?.x === "number" && typeof p.y === "number";
  const { start, finish, barrel_radius, barrels } = read;
  const whole = barrels?.length && barrels.every((b) => point(b.at) && b.pocket);
  if (!start || !finish || !point(start) || !point(finish) || !barrel_radius || !barrels || !whole)
    throw new Error("This file holds no set-up: it needs start, finish, barrel_radius and barrels.");
  return { start, finish, barrel_radius, barrels };
}
