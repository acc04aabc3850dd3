import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import type { Entry, TackLog } from "../../parts/tack-log";

vi.stubGlobal("window", { addEventListener: () => undefined });
const { change, changed, isTwoRein, wornNow } = await import("./worn");

const gear = (id: string, mouthpiece: Schemas["GearOut"]["mouthpiece"]) =>
  ({ id, mouthpiece, name: id }) as Schemas["GearOut"];
const all = [
  gear("snaffle", "snaffle"),
  gear("shank", "leverage"),
  gear("bosal", "bitless"),
  gear("saddle", null),
];
const tap = (worn: string[], id: string) => {
  const piece = all.find((g) => g.id === id);
  return piece ? changed(worn, piece, all) : worn;
};

beforeEach(() => {
  vi.useFakeTimers();
  vi.setSystemTime("2026-03-02T10:00:00Z");
});
afterEach(() => vi.useRealTimers());

it("puts a bit in the place of the bit, and a bosal under a leverage bit", () => {
  expect(tap(["snaffle", "saddle"], "shank")).toEqual(["saddle", "shank"]);
  expect(tap(["shank", "saddle"], "bosal")).toEqual(["shank", "saddle", "bosal"]);
  expect(tap(["snaffle", "saddle"], "bosal")).toEqual(["saddle", "bosal"]);
  expect(tap(["bosal", "saddle"], "shank")).toEqual(["bosal", "saddle", "shank"]);
  expect(tap(["bosal", "shank"], "snaffle")).toEqual(["snaffle"]);
  // Out of the two-rein by a tap on either; never without anything on the head.
  expect(tap(["bosal", "shank"], "bosal")).toEqual(["shank"]);
  expect(tap(["shank", "saddle"], "shank")).toEqual(["shank", "saddle"]);
  expect([isTwoRein(["bosal", "shank"], all), isTwoRein(["shank"], all)]).toEqual([true, false]);
});

const worn = (id: string, at: string, pieces: string[]): Entry => ({
  id,
  at,
  event: { kind: "worn", gear: pieces },
  version: 1,
  who: "Ada",
});
const logOf = (events: Entry[]) => {
  const log = { events, log: vi.fn(), correct: vi.fn(), takeBack: vi.fn() };
  return { ...log, it: log as unknown as TackLog };
};

it("begins a new stretch, and puts a slip of the last minute right instead", () => {
  const none = logOf([]);
  change(none.it, ["snaffle"], ["shank"]);
  expect(none.log).toHaveBeenCalledWith({ kind: "worn", gear: ["shank"] });
  const long = logOf([worn("a", "2026-03-02T09:50:00Z", ["shank"])]);
  change(long.it, ["snaffle"], ["snaffle"]);
  expect(long.log).toHaveBeenCalledOnce();
  const just = worn("a", "2026-03-02T09:59:30Z", ["shank"]);
  const slip = logOf([just]);
  change(slip.it, ["snaffle"], ["bosal"]);
  expect(slip.correct).toHaveBeenCalledWith(just, { kind: "worn", gear: ["bosal"] });
  const back = logOf([just]);
  change(back.it, ["snaffle", "saddle"], ["saddle", "snaffle"]);
  expect(back.takeBack).toHaveBeenCalledWith(just);
  expect(wornNow([just], ["snaffle"])).toEqual(["shank"]);
  expect(wornNow([], ["snaffle"])).toEqual(["snaffle"]);
});
