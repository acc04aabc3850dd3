// @vitest-environment happy-dom
import { QueryClient } from "@tanstack/react-query";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { Refused } from "../api/client";
import { bringTheDay, freshElseKept, keepFor } from "./device";
import { mountedLately, rememberMounted } from "./mounted";
import { deviceOwner } from "./owner";

const server = vi.hoisted(() => ({ GET: vi.fn() }));
vi.mock("../api/client", async (real) => ({ ...(await real<object>()), api: server }));

const dayRide = (id: string) => ({
  ride: { id, horse_id: `horse of ${id}` },
  plan: { parts: [] },
  standing: { steps: [] },
  gear: { items: [] },
  tack: { events: [] },
  exercises: { events: [] },
  cattle: id === "c" ? { cows: [] } : null,
  pattern: null,
});
const responses: Record<string, unknown> = {
  "/api/today": { date: "2026-03-02", rides: [] },
  "/api/day": {
    date: "2026-03-02",
    rides: [dayRide("a"), dayRide("c")],
    curricula: [{ horses: ["horse of a", "horse of c"], curriculum: { steps: ["S1"] } }],
  },
};
const asked = () => server.GET.mock.calls.map(([path]) => path as string);

const put = vi.fn<(address: string, response: Response) => Promise<void>>(() => Promise.resolve());

beforeEach(() => {
  vi.useFakeTimers();
  put.mockClear();
  vi.stubGlobal("caches", { open: () => Promise.resolve({ put }) });
  server.GET.mockReset().mockImplementation((path: string) =>
    Promise.resolve({ data: responses[path] ?? {}, response: { ok: true } }),
  );
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it("brings what each open ride of the day needs in one response, and keeps each part where it is asked for", async () => {
  const client = new QueryClient();
  void bringTheDay(client);
  await vi.advanceTimersByTimeAsync(1);
  expect(asked()).toEqual(["/api/today"]);
  await vi.advanceTimersByTimeAsync(10_000);
  expect(asked().slice(1, 5).sort()).toEqual([
    "/api/curriculum",
    "/api/people",
    "/api/set-ups",
    "/api/weeks/{day}",
  ]);
  expect(asked().slice(5)).toEqual(["/api/day"]);
  expect(client.getQueryData(["ride", "a"])).toEqual({ id: "a", horse_id: "horse of a" });
  expect(client.getQueryData(["curriculum", "horse of c"])).toEqual({ steps: ["S1"] });
  expect(client.getQueryData(["ride", "a", "cattle"])).toBeUndefined();
  expect(client.getQueryData(["ride", "c", "cattle"])).toEqual({ cows: [] });
  expect(put.mock.calls.map(([address]) => address)).toEqual([
    "/api/rides/a",
    "/api/rides/a/plan",
    "/api/rides/a/tack",
    "/api/rides/a/exercises",
    "/api/horses/horse of a/standing",
    "/api/horses/horse of a/gear",
    "/api/curriculum?horse=horse of a",
    "/api/rides/c",
    "/api/rides/c/plan",
    "/api/rides/c/tack",
    "/api/rides/c/exercises",
    "/api/horses/horse of c/standing",
    "/api/horses/horse of c/gear",
    "/api/curriculum?horse=horse of c",
    "/api/rides/c/cattle",
  ]);
  expect(await put.mock.calls[0]?.[1].json()).toEqual({ id: "a", horse_id: "horse of a" });
});

it("leaves what the page has been given meanwhile as it is, on the device too", async () => {
  const client = new QueryClient();
  const newer = { id: "a", reps: 3 };
  server.GET.mockImplementation((path: string) => {
    // The ride's page asks for it while the day is on its way.
    if (path === "/api/day") client.setQueryData(["ride", "a"], newer);
    return Promise.resolve({ data: responses[path] ?? {}, response: { ok: true } });
  });
  void bringTheDay(client);
  await vi.advanceTimersByTimeAsync(10_000);
  expect(client.getQueryData(["ride", "a"])).toEqual(newer);
  const kept = put.mock.calls.map(([address]) => address);
  expect(kept).not.toContain("/api/rides/a");
  expect(kept).toContain("/api/rides/a/plan");
});

it("leaves what the page was given before as it is, and keeps the newer one on the device", async () => {
  const client = new QueryClient();
  client.setQueryData(["ride", "a"], { id: "a", reps: 3 });
  void bringTheDay(client);
  await vi.advanceTimersByTimeAsync(10_000);
  expect(client.getQueryData(["ride", "a"])).toEqual({ id: "a", reps: 3 });
  expect(put.mock.calls.map(([address]) => address)).toContain("/api/rides/a");
});

it("has a response that was kept where the server is out of reach, and a refusal is a refusal", async () => {
  vi.useRealTimers();
  const kept = new Map<string, Response>();
  vi.stubGlobal("caches", {
    open: () =>
      Promise.resolve({
        put: (at: string, response: Response) => Promise.resolve(void kept.set(at, response)),
      }),
    match: (at: string) => Promise.resolve(kept.get(at)?.clone()),
  });
  const gone = () => Promise.reject(new TypeError("Failed to fetch"));
  await expect(freshElseKept("r/f", gone)).rejects.toThrow("Failed to fetch");
  expect(await freshElseKept("r/f", () => Promise.resolve({ calls: 3 }))).toEqual({ calls: 3 });
  expect(await freshElseKept("r/f", gone)).toEqual({ calls: 3 });
  const refused = new Refused({ type: "", title: "", status: 404, detail: "gone" });
  await expect(freshElseKept("r/f", () => Promise.reject(refused))).rejects.toBe(refused);
});

it("waits while someone touches the page, but not for ever", async () => {
  void bringTheDay(new QueryClient());
  await vi.advanceTimersByTimeAsync(1);
  for (let tenths = 0; tenths < 20; tenths++) {
    window.dispatchEvent(new Event("pointerdown"));
    await vi.advanceTimersByTimeAsync(100);
  }
  expect(asked()).toHaveLength(5);
  expect(asked()).not.toContain("/api/day");
  for (let tenths = 0; tenths < 60; tenths++) {
    window.dispatchEvent(new Event("keydown"));
    await vi.advanceTimersByTimeAsync(100);
  }
  expect(asked()).toHaveLength(6);
});

it("asks for nothing again that it has just been given", async () => {
  const client = new QueryClient();
  client.setQueryData(["curriculum"], { steps: [] });
  void bringTheDay(client);
  await vi.advanceTimersByTimeAsync(10_000);
  expect(asked()).toContain("/api/day");
  expect(asked()).not.toContain("/api/curriculum");
});

it("forgets the day that was kept when another signs in or this one out, and not for the same person", async () => {
  vi.useRealTimers();
  const gone = vi.fn(() => Promise.resolve(true));
  vi.stubGlobal("caches", { delete: gone });
  localStorage.clear();
  expect(deviceOwner()).toBeNull();
  await keepFor("ada");
  expect(deviceOwner()).toBe("ada");
  rememberMounted("r");
  await keepFor("ada");
  expect(gone).not.toHaveBeenCalled();
  expect(mountedLately("r")).toBe(true);
  await keepFor("bo");
  expect(gone).toHaveBeenCalledExactlyOnceWith("cavesson-day");
  expect(mountedLately("r")).toBe(false);
  await keepFor(null);
  expect(gone).toHaveBeenCalledTimes(2);
  expect(deviceOwner()).toBeNull();
  expect(localStorage.length).toBe(0);
  vi.unstubAllGlobals();
});
