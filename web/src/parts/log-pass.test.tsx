// @vitest-environment happy-dom
import { act, cleanup, render, renderHook, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import type { Item } from "../offline/outbox";
import { answer, around } from "../tests/around";
import { LogPass, useWaitingPasses } from "./log-pass";
import { wrongTimes } from "./pass-form";

const outbox = vi.hoisted(() => ({ put: vi.fn(), waiting: [] as Item[] }));
vi.mock("../offline/outbox", () => ({
  put: outbox.put,
  useOutbox: () => ({ waiting: outbox.waiting, refused: [], error: null, aside: null }),
}));
const server = vi.hoisted(() => ({ GET: vi.fn() }));
vi.mock("../api/client", async (real) => ({ ...(await real<object>()), api: server }));

const pocket = { entry: 1.2, back: 1.2, exit: 0.9 };
const setUp = {
  id: "s1",
  set_up: { barrels: [{ at: { x: 0, y: 20 }, turn: "left", pocket }] },
} as Schemas["SetUpOut"];

beforeEach(() => {
  outbox.put.mockReset();
  outbox.waiting = [];
  server.GET.mockReset().mockImplementation(() => answer({ blocks: [], notes: [], able: [] }));
});
afterEach(cleanup);

it("keeps a pass on the device with what it was ridden over, and begins the next at the same gait", async () => {
  const { wrapper, user } = around();
  const ride = { id: "r1", rider_id: "p2", date: "2026-03-01" } as Schemas["RideDetail"];
  render(<LogPass horse="h1" setUp={setUp} units="imperial" ride={ride} />, { wrapper });
  await user.click(screen.getByRole("button", { name: "Lope" }));
  await user.click(screen.getByRole("button", { name: "Barrel 1 In: Wide" }));
  await user.type(screen.getByLabelText("Seconds"), "18,45");
  await user.click(screen.getByRole("button", { name: "Log the pass" }));
  expect(outbox.put).toHaveBeenCalledOnce();
  const item = outbox.put.mock.calls[0]?.[0] as Extract<Item, { kind: "pass" }>;
  expect(item).toMatchObject({ kind: "pass", ride: "r1", horse: "h1" });
  expect(item.body).toMatchObject({
    set_up_id: "s1",
    set_up: setUp.set_up,
    ride_id: "r1",
    rider_id: "p2",
    on: "2026-03-01",
    gait: "lope",
    told: { barrels: [{ pocket: ["wide", null, null] }], seconds: 18.45 },
  });
  expect(screen.getByRole("status").textContent).toContain("The pass is logged.");
  expect(screen.getByRole("button", { name: "Lope" }).getAttribute("aria-pressed")).toBe("true");
  expect(screen.getByRole("button", { name: "Barrel 1 In: Wide" }).getAttribute("aria-pressed")).toBe(
    "false",
  );
  await user.click(screen.getByRole("button", { name: "Log the pass" }));
  const [first, second] = outbox.put.mock.calls.map(([it]) => (it as Item).rep);
  expect(second).not.toBe(first);
});

it("says which times cannot be, before anything is kept", async () => {
  expect(wrongTimes([], "")).toBeNull();
  expect(wrongTimes([4, null, 9], "17.2")).toBeNull();
  expect(wrongTimes([4, null, 19], "17.2")).toMatch(/last barrel/);
  expect(["0", "-3", "601", "soon"].map((t) => wrongTimes([], t))).toEqual(
    Array(4).fill("0.5 to 600 seconds"),
  );
  const { wrapper, user } = around();
  render(<LogPass horse="h1" setUp={setUp} units="imperial" />, { wrapper });
  await user.type(screen.getByLabelText("Seconds"), "0");
  await user.keyboard("{Enter}");
  expect(outbox.put).not.toHaveBeenCalled();
});

it("reads the horse again once a pass was sent, and not before", () => {
  const { client, wrapper } = around();
  const again = vi.spyOn(client, "invalidateQueries");
  const pass = { kind: "pass", horse: "h1", rep: "a" } as Item;
  outbox.waiting = [pass, { ...pass, horse: "h2", rep: "b" } as Item];
  const { result, rerender } = renderHook(() => useWaitingPasses("h1"), { wrapper });
  expect(result.current).toEqual([pass]);
  expect(again).not.toHaveBeenCalled();
  outbox.waiting = [];
  act(() => rerender());
  expect(again).toHaveBeenCalledWith({ queryKey: ["horse", "h1"] });
});
