// @vitest-environment happy-dom
import { cleanup, render, screen, within } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { answer, aRideOfToday, around, refusal } from "../../tests/around";
import { Today } from "./today";

const server = vi.hoisted(() => ({ GET: vi.fn(), PUT: vi.fn(), POST: vi.fn(), DELETE: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: server }));

const entry = (ride: Partial<Schemas["RideOut"]>, more: Partial<Schemas["TodayRide"]> = {}) =>
  ({
    ride: aRideOfToday(ride),
    line: {
      loosen: [{ id: "S1", name: "Flexion" }],
      main: { id: "T2@walk", name: "Stop", left: 60, right: 40, why: "", quit: "quit on one off the bridle" },
    },
    call: "hold",
    why: "61 % on an ordinary day, 70 asked",
    slipping: [],
    cautions: ["One-rein stop first"],
    last_note: "",
    ...more,
  }) satisfies Schemas["TodayRide"];

let told: Schemas["TodayOut"];
beforeEach(() => {
  Object.values(server).forEach((call) => void call.mockReset());
  told = {
    date: "2026-03-02",
    rides: [
      entry(
        { id: "r1", starts_at: "07:30:00" },
        { last_note: "Begin on the left", last_ridden: "2026-02-28" },
      ),
      entry(
        {
          id: "r2",
          horse_id: "h2",
          horse_name: "Biscuit",
          rider_id: "p2",
          rider_name: "Mara Quill",
          state: "closed",
        },
        { slipping: ["Poll on two reins", "Flexion"] },
      ),
      entry({ id: "r3", horse_id: "h3", horse_name: "Marlow", from_week: false, state: "open" }),
    ],
    unanswered: [],
    calls: [],
    changes: [],
  };
  server.GET.mockImplementation((path: string) => answer(path === "/api/today" ? told : { heat: null }));
});
afterEach(cleanup);

test("what is on the screen is painted first, and then all of it", async () => {
  told.rides = Array.from({ length: 30 }, (_, n) => entry({ id: `r${n}`, horse_name: `Horse ${n}` }));
  render(<Today />, { wrapper: around().wrapper });
  const list = await screen.findByRole("list", { name: "Rides" });
  expect(within(list).getAllByRole("listitem")).toHaveLength(8);
  expect(screen.queryByText("Nothing has changed.")).toBeNull();
  await screen.findByText("Nothing has changed.", {}, { timeout: 5_000 });
  expect(within(list).getAllByRole("listitem")).toHaveLength(30);
});

const rows = () =>
  within(screen.getByRole("list", { name: "Rides" }))
    .getAllByRole("listitem")
    .map((row) => row.textContent ?? "");

test("a row tells the horse, what it is for, the call with its reason, and one button", async () => {
  const { wrapper } = around();
  render(<Today />, { wrapper });
  expect(await screen.findByText("3 rides, 1 done")).toBeDefined();
  const [juniper, biscuit, marlow] = rows();
  for (const part of [
    "7:30",
    "Juniper",
    "Hold",
    "L 60",
    "40 R",
    "quit on one off the bridle",
    "61 % on an ordinary day",
  ])
    expect(juniper).toContain(part);
  expect(juniper).toContain("From Sat, Feb 28: Begin on the left");
  expect(biscuit).toContain("also slipping: Poll on two reins and 1 more");
  expect([juniper, biscuit, marlow].map((r) => /Go on|Done|Ride/.exec(r ?? "")?.[0])).toEqual([
    "Ride",
    "Done",
    "Go on",
  ]);
  expect(screen.getByRole("link", { name: "Ride Juniper" }).getAttribute("href")).toBe("/ride/r1");
});

test("a call on the whole horse stands in the place of any on a rung", async () => {
  const { wrapper } = around();
  const look = { call: "look-at" as const, look: ["mouth"], why: ["Three rungs fell at once"] };
  told.rides = [entry({}, { horse: look })];
  told.calls = [{ horse_id: "h1", horse_name: "Juniper", call: look }];
  render(<Today />, { wrapper });
  await screen.findByText("1 ride, 0 done");
  const [juniper] = rows();
  expect(juniper).toContain("Look at");
  expect(juniper).toContain("Three rungs fell at once");
  expect(juniper).not.toContain("61 %");
});

test("one rider's rides alone, and everyone's again", async () => {
  const { wrapper, user } = around();
  render(<Today />, { wrapper });
  const whose = await screen.findByRole("group", { name: "Whose rides" });
  await user.click(within(whose).getByRole("button", { name: "Mara Quill" }));
  expect(rows()).toHaveLength(1);
  expect(rows()[0]).toContain("Biscuit");
  expect(within(whose).getByRole("button", { pressed: true }).textContent).toBe("Mara Quill");
  await user.click(within(whose).getByRole("button", { name: "Everyone" }));
  expect(rows()).toHaveLength(3);
});

test("only a ride that no week put there is taken off the day, and one that is not taken off can be tried again", async () => {
  const { wrapper, user } = around();
  told.rides = [entry({ from_week: true }), entry({ id: "r4", horse_name: "Guest", from_week: false })];
  render(<Today />, { wrapper });
  await user.click(await screen.findByRole("button", { name: "Juniper is not ridden" }));
  expect(screen.queryByRole("button", { name: "Take Juniper off today" })).toBeNull();
  await user.click(screen.getByRole("button", { name: "Guest is not ridden" }));
  server.DELETE.mockImplementationOnce(() => refusal("It was begun"));
  await user.click(screen.getByRole("button", { name: "Take Guest off today" }));
  expect(await screen.findByText("Couldn't remove it: try again")).toBeDefined();
  server.DELETE.mockImplementationOnce(() => answer(undefined));
  await user.click(screen.getByRole("button", { name: "Take Guest off today" }));
  expect(server.DELETE).toHaveBeenLastCalledWith("/api/rides/{id}", { params: { path: { id: "r4" } } });
});

test("an owner reads the day and can change nothing in it", async () => {
  const { wrapper } = around("owner");
  render(<Today />, { wrapper });
  await screen.findByText("3 rides, 1 done");
  expect(screen.queryByRole("link", { name: /^Ride / })).toBeNull();
  expect(screen.queryByRole("button", { name: "Add a ride" })).toBeNull();
  expect(screen.queryByRole("button", { name: "Enter the weather" })).toBeNull();
});

test("what moved since the last rides is told with its day, and a quiet day says so", async () => {
  const { wrapper } = around();
  const { unmount } = render(<Today />, { wrapper });
  expect(await screen.findByText("Nothing has changed.")).toBeDefined();
  unmount();
  told.changes = [
    {
      horse_id: "h2",
      horse_name: "Biscuit",
      change: {
        id: "S4@stand",
        name: "Hip over",
        from: "owned",
        to: "slipping",
        on: "2026-03-01",
        why: "Under it for 4 days",
      },
    },
  ];
  render(<Today />, { wrapper: around().wrapper });
  const panel = await screen.findByRole("region", { name: "Since their last ride" });
  expect((await within(panel).findByText(/Hip over/)).textContent).toContain("Biscuit: Hip over slipping");
  expect(panel.textContent).toContain("Sun, Mar 1. Under it for 4 days");
});

test("where the day does not come, it says why and is asked for again", async () => {
  const { wrapper, user } = around();
  server.GET.mockImplementation((path: string) =>
    path === "/api/today" ? refusal("The barn is shut") : answer({}),
  );
  render(<Today />, { wrapper });
  expect(await screen.findByText("The barn is shut")).toBeDefined();
  server.GET.mockImplementation((path: string) => answer(path === "/api/today" ? told : { heat: null }));
  await user.click(screen.getByRole("button", { name: /again/i }));
  expect(await screen.findByText("3 rides, 1 done")).toBeDefined();
});
