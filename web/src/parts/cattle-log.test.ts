import { expect, it, vi } from "vitest";
import type { Item } from "../offline/outbox";
import type { CattleEntry, CattleEvent } from "./cattle-log";

vi.stubGlobal("window", { addEventListener: () => undefined });
const { cowNow } = await import("./cattle-log");
const { laidOver } = await import("./ride-log");

const turn = (cow: string, stopped: "even" | "past"): CattleEvent => ({
  kind: "turn",
  cow,
  way: "left",
  position: "leg",
  stopped,
  through: true,
  speed: "slow",
  honoured: true,
});
const at = (second: number) => `2026-03-02T08:00:${String(second).padStart(2, "0")}Z`;
const entry = (id: string, second: number, event: CattleEvent, version = 1): CattleEntry => ({
  id,
  at: at(second),
  event,
  version,
  who: "Ada",
});
const item = (e: CattleEntry, removed = false): Item => ({
  kind: "cattle",
  ride: "ride",
  rep: e.id,
  body: { at: e.at, event: e.event, version: e.version, removed },
});

it("lays what this device logged over what the server knows, the higher version on top", () => {
  const known = [entry("a", 1, turn("4", "even")), entry("b", 2, turn("4", "even"), 3)];
  const own = [
    item(entry("c", 3, turn("7", "even"))),
    item(entry("a", 1, turn("4", "past"), 2)),
    item(entry("b", 2, turn("4", "past"), 2)),
    item({ ...entry("d", 4, turn("9", "even")), id: "d" }),
    item(entry("d", 4, turn("9", "even"), 2), true),
    { ...item(entry("e", 5, turn("9", "even"))), ride: "another" } as Item,
  ];
  const all = laidOver("cattle", known, own, "ride", "Bo");
  expect(all.map((e) => [e.id, e.version])).toEqual([
    ["a", 2],
    ["b", 3],
    ["c", 1],
  ]);
});

it("knows the cow that is worked now, whatever was logged on the flag since", () => {
  const flag: CattleEvent = { kind: "flag", stop: { end: "left", past: 0, late: false, guessed: false } };
  const events = [entry("a", 1, turn("4", "even")), entry("b", 2, flag)];
  expect(cowNow(events)).toBe("4");
  expect(cowNow([...events, entry("c", 3, { kind: "left" })])).toBeNull();
  expect(cowNow([])).toBeNull();
});
