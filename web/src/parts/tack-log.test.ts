import { expect, it, vi } from "vitest";
import type { Item } from "../offline/outbox";

vi.stubGlobal("window", { addEventListener: () => undefined });
const { nextReins, entriesOf } = await import("./tack-log");
const { laidOver } = await import("./ride-log");

type Entry = Parameters<typeof laidOver<"tack">>[1][number];
type Event = Entry["event"];

const share = (bridle: number): Event => ({ kind: "share", bridle, asked: null });
const entry = (id: string, minute: number, event: Event, version = 1): Entry => ({
  id,
  at: `2026-03-02T10:${String(minute).padStart(2, "0")}:00.000Z`,
  event,
  version,
  who: "Ada",
});
const waits = (e: Entry, removed = false, ride = "r"): Item => ({
  kind: "tack",
  ride,
  rep: e.id,
  body: { at: e.at, event: e.event, version: e.version, removed },
});

it("lays what waits on the device over what the server knows, in order", () => {
  const known = [entry("a", 5, share(10)), entry("b", 9, share(20))];
  const waiting = [
    waits(entry("c", 7, share(30))),
    waits(entry("b", 9, share(25), 2)),
    waits(entry("x", 6, share(90)), false, "another ride"),
  ];
  const all = laidOver("tack", known, waiting, "r", "Dell");
  expect(entriesOf(all, "share").map((e) => e.event.bridle)).toEqual([10, 30, 25]);
});

it("takes away what was taken back here, and keeps a later version from elsewhere", () => {
  const known = [entry("a", 5, share(10)), entry("b", 9, share(20), 3)];
  const waiting = [waits(entry("a", 5, share(10), 2), true), waits(entry("b", 9, share(99), 2))];
  expect(laidOver("tack", known, waiting, "r", "Dell").map((e) => [e.id, e.version])).toEqual([["b", 3]]);
});

it("knows on how many reins to ask next without the network", () => {
  const ask = (gait: "walk" | "jog"): Event => ({
    kind: "ask",
    gait,
    reins: "one",
    braced: false,
    head: "low",
  });
  const seen = {
    events: [entry("a", 1, ask("walk"))],
    orders: [
      { gait: "walk" as const, reins: ["two", "one", "one", "two"] as ("one" | "two")[] },
      { gait: "jog" as const, reins: ["one"] as ("one" | "two")[] },
    ],
    share: null,
    first_day: null,
  };
  const next = (waiting: Item[], gait: "walk" | "jog" | "lope") => nextReins(seen, waiting, "r", gait);
  expect(next([], "walk")).toBe("two");
  // What the server already told with its order is not counted twice, nor another gait's, nor what was taken back.
  expect(next([waits(entry("a", 1, ask("walk")))], "walk")).toBe("two");
  const two = [waits(entry("b", 2, ask("walk"))), waits(entry("c", 3, ask("walk")))];
  expect(next(two, "walk")).toBe("one");
  expect(next([...two, waits(entry("d", 4, ask("walk"), 2), true)], "walk")).toBe("one");
  expect(next([waits(entry("b", 2, ask("jog")))], "jog")).toBe(null);
  expect(next([], "lope")).toBe(null);
  expect(nextReins(undefined, [], "r", "walk")).toBe(null);
});
