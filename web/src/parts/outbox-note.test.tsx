// @vitest-environment happy-dom
import { cleanup, render, screen, within } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Item, Refusal } from "../offline/outbox";
import { answer, around, aRideOfToday, refusal } from "../tests/around";
import { SignedOutContext } from "./me";
import { OutboxNote } from "./outbox-note";

const server = vi.hoisted(() => ({ GET: vi.fn() }));
vi.mock("../api/client", async (real) => ({ ...(await real<object>()), api: server }));
type State = { waiting: Item[]; refused: Refusal[]; error: string | null; aside: object | null };
const box = vi.hoisted(() => ({
  state: {} as State,
  sendInstead: vi.fn(),
  discard: vi.fn(),
  flush: vi.fn(() => Promise.resolve()),
}));
vi.mock("../offline/outbox", async (real) => ({
  ...(await real<object>()),
  ...box,
  useOutbox: () => box.state,
}));
const saved = vi.hoisted(() => ({ download: vi.fn() }));
vi.mock("./download", () => saved);

const rep = (n: number, set = "s1", ride = "gone"): Item =>
  ({
    kind: "log",
    ride,
    rep: `rep ${n}`,
    body: { outcome: "gave", weight: "egg", set: { id: set, rung: "S1", gait: "walk", side: "left" } },
  }) as unknown as Item;
const why = "that ride was taken off";

beforeEach(() => {
  box.state = { waiting: [], refused: [], error: null, aside: null };
  box.sendInstead.mockReset();
  box.discard.mockReset();
  saved.download.mockReset();
  server.GET.mockImplementation((path: string) => {
    if (path === "/api/today") return answer({ rides: [{ ride: aRideOfToday({ id: "r7" }) }] });
    // The ride that the asks were meant for is not there any more.
    return path.startsWith("/api/rides/") ? refusal("No such ride") : answer({ rungs: [], weights: [] });
  });
});
afterEach(cleanup);

function open(signIn: (() => void) | null = null) {
  const { wrapper, user } = around();
  render(
    <SignedOutContext value={signIn}>
      <OutboxNote />
    </SignedOutContext>,
    { wrapper },
  );
  return user;
}

test("nothing is said while all is well, nor of what is on its way", () => {
  box.state.waiting = [rep(1)];
  open();
  expect(screen.queryByRole("status")).toBeNull();
});

test("what could not be sent is counted, and is sent again by a tap", async () => {
  box.state = { ...box.state, waiting: [rep(1), rep(2)], error: "No network." };
  const user = open();
  expect(screen.getByRole("status").textContent).toContain("2 on this device, not sent yet. No network.");
  await user.click(screen.getByRole("button", { name: "Send now" }));
  expect(box.flush).toHaveBeenCalledOnce();
});

test("whoever was signed out is told that what they log is kept", async () => {
  const signIn = vi.fn();
  const user = open(signIn);
  expect(screen.getByRole("status").textContent).toContain("You were signed out. Ride on");
  await user.click(screen.getByRole("button", { name: "Sign in" }));
  expect(signIn).toHaveBeenCalledOnce();
});

test("refused asks stand together by their sets, and go to another ride as a set of its own", async () => {
  box.state.refused = [rep(1), rep(2), rep(3, "s2")].map((item) => ({ item, why }));
  const user = open();
  const [first, second] = await screen.findAllByRole("group", { name: "Couldn't save" });
  expect(first?.textContent).toContain("Couldn't save 2 asks of a ride that is not here any more.");
  expect(second?.textContent).toContain("Couldn't save 1 ask");
  expect(first?.textContent).toContain(`${why}.`);

  await user.click(within(first as HTMLElement).getByRole("combobox"));
  await user.click(await screen.findByRole("option", { name: "Juniper, Dell Okafor" }));
  const [from, to] = box.sendInstead.mock.calls[0] as [Refusal[], Extract<Item, { kind: "log" }>[]];
  expect(from).toHaveLength(2);
  expect(to.map((item) => [item.ride, item.rep])).toEqual([
    ["r7", "rep 1"],
    ["r7", "rep 2"],
  ]);
  const sets = new Set(to.map((item) => item.body.set.id));
  expect(sets.size).toBe(1);
  expect(sets.has("s1")).toBe(false);
});

test("refused asks are discarded only once they were saved, and after a second tap", async () => {
  box.state.refused = [{ item: rep(1), why }];
  const user = open();
  const group = await screen.findByRole("group", { name: "Couldn't save" });
  expect(within(group).queryByRole("button", { name: /Discard/ })).toBeNull();
  await user.click(within(group).getByRole("button", { name: "Save as a file" }));
  expect(saved.download).toHaveBeenCalledOnce();
  await user.click(within(group).getByRole("button", { name: "Discard" }));
  expect(box.discard).not.toHaveBeenCalled();
  await user.click(within(group).getByRole("button", { name: "Discard them for good" }));
  expect(box.discard).toHaveBeenCalledOnce();
});

test("a correction that came too late shows both, what was put in and what stands now", () => {
  const item = {
    kind: "correct",
    ride: "r1",
    rep: "x",
    body: { outcome: "none", weight: "egg" },
  } as unknown as Item;
  box.state.refused = [{ item, why: "It was changed meanwhile.", now: { outcome: "gave", weight: "lemon" } }];
  open();
  const said = screen.getByRole("status").textContent;
  expect(said).toContain("Couldn't save a change to a rep.");
  expect(said).toContain("You made it none at egg, it is now gave at lemon.");
});
