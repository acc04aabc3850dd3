import { afterEach, expect, it, vi } from "vitest";

vi.stubGlobal("window", { addEventListener: () => undefined });
const { deviceWarnings } = await import("./device");

const now = new Date("2026-03-02T10:00:00Z");
const room = (quota: number, usage = 0) =>
  vi.stubGlobal("navigator", { storage: { estimate: () => Promise.resolve({ quota, usage }) } });
afterEach(() => vi.unstubAllGlobals());

it("is silent where all is well", async () => {
  room(5e9);
  expect(await deviceWarnings(now, now)).toEqual([]);
  expect(await deviceWarnings(now, null)).toEqual([]);
});

it("says how far the clock is off, and which way", async () => {
  room(5e9);
  const hours = await deviceWarnings(new Date("2026-03-03T12:00:00Z"), now);
  expect(hours[0]).toContain("26 hours ahead");
  const minutes = await deviceWarnings(new Date("2026-03-02T09:45:00Z"), now);
  expect(minutes[0]).toContain("15 minutes behind");
});

it("says when the device is nearly full, or looks like a private window", async () => {
  room(5e9, 5e9 - 1e6);
  expect((await deviceWarnings(now, now))[0]).toContain("nearly full");
  room(1e8);
  expect((await deviceWarnings(now, now))[0]).toContain("private window");
});
