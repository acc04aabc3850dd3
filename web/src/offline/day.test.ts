// @vitest-environment happy-dom
import { QueryClient } from "@tanstack/react-query";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { bringTheDay, keepFor } from "./device";

const server = vi.hoisted(() => ({ GET: vi.fn() }));
vi.mock("../api/client", async (real) => ({ ...(await real<object>()), api: server }));

const ride = (id: string, state: string) => ({ ride: { id, horse_id: `horse of ${id}`, state } });
const asked = () =>
  server.GET.mock.calls.map(([path, at]) => {
    type Params = { path?: { id?: string }; query?: { horse?: string } };
    const params = (at as { params?: Params } | undefined)?.params;
    const id = params?.path?.id ?? params?.query?.horse;
    return id ? `${path as string} ${id}` : (path as string);
  });

beforeEach(() => {
  vi.useFakeTimers();
  server.GET.mockReset().mockImplementation((path: string) =>
    Promise.resolve({
      data:
        path === "/api/today"
          ? { date: "2026-03-02", rides: [ride("a", "planned"), ride("b", "closed"), ride("c", "open")] }
          : {},
      response: { ok: true },
    }),
  );
});
afterEach(() => vi.useRealTimers());

it("brings what each ride of the day needs, one horse after the other, and nothing of those that are over", async () => {
  void bringTheDay(new QueryClient());
  await vi.advanceTimersByTimeAsync(1);
  expect(asked().sort()).toEqual([
    "/api/curriculum",
    "/api/people",
    "/api/set-ups",
    "/api/today",
    "/api/weeks/{day}",
  ]);
  await vi.advanceTimersByTimeAsync(160);
  expect(asked().slice(5)).toEqual([
    "/api/rides/{id} a",
    "/api/rides/{id}/plan a",
    "/api/rides/{id}/tack a",
    "/api/horses/{id}/standing horse of a",
    "/api/horses/{id}/gear horse of a",
    "/api/curriculum horse of a",
  ]);
  await vi.advanceTimersByTimeAsync(160);
  expect(asked().slice(11)).toHaveLength(6);
  expect(
    asked()
      .slice(11)
      .every((a) => a.endsWith("c")),
  ).toBe(true);
  await vi.advanceTimersByTimeAsync(10_000);
  expect(asked()).toHaveLength(17);
});

it("waits while someone touches the page, but not for ever", async () => {
  void bringTheDay(new QueryClient());
  await vi.advanceTimersByTimeAsync(1);
  for (let tenths = 0; tenths < 20; tenths++) {
    window.dispatchEvent(new Event("pointerdown"));
    await vi.advanceTimersByTimeAsync(100);
  }
  expect(asked()).toHaveLength(5);
  // Left alone for a moment, it goes on.
  await vi.advanceTimersByTimeAsync(1_050);
  expect(asked()).toHaveLength(11);
  for (let tenths = 0; tenths < 60; tenths++) {
    window.dispatchEvent(new Event("keydown"));
    await vi.advanceTimersByTimeAsync(100);
  }
  expect(asked()).toHaveLength(17);
});

it("asks for nothing again that it has just been given", async () => {
  const client = new QueryClient();
  client.setQueryData(["curriculum"], { steps: [] });
  void bringTheDay(client);
  await vi.advanceTimersByTimeAsync(1);
  expect(asked()).not.toContain("/api/curriculum");
});

it("forgets the day that was kept when another signs in or this one out, and not for the same person", async () => {
  vi.useRealTimers();
  const gone = vi.fn(() => Promise.resolve(true));
  vi.stubGlobal("caches", { delete: gone });
  localStorage.clear();
  await keepFor("ada");
  await keepFor("ada");
  expect(gone).not.toHaveBeenCalled();
  await keepFor("bo");
  expect(gone).toHaveBeenCalledExactlyOnceWith("cavesson-day");
  await keepFor(null);
  expect(gone).toHaveBeenCalledTimes(2);
  expect(localStorage.length).toBe(0);
  vi.unstubAllGlobals();
});
