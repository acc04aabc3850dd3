// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { answer, aRideOfToday, around } from "../../tests/around";
import { CloseRide } from "./close-ride";

const server = vi.hoisted(() => ({ GET: vi.fn(), PATCH: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: server }));
const outbox = vi.hoisted(() => ({ flush: vi.fn(), waitingFor: vi.fn() }));
vi.mock("../../offline/outbox", () => outbox);
afterEach(cleanup);

const book = {
  signs: [
    { tag: "licks", name: "licks and chews", soft: true },
    { tag: "tail", name: "tail wrings", soft: false },
  ],
} as Schemas["CurriculumOut"];
const came: Schemas["SummaryOut"] = {
  best: { step: "S1", name: "Flexion", side: "left", words: "gave at an egg in 0.9 s" },
  calls: [{ step: "S1", name: "Flexion", call: "advance", why: "Owned on every side" }],
  load: 34,
  noted: false,
  week_load: 120,
  class: null,
  minutes: { stand: 5, walk: 12, jog: 0, lope: 0, run: 0 },
};
const ride = (more: Partial<Schemas["RideDetail"]> = {}): Schemas["RideDetail"] => ({
  ...aRideOfToday({ state: "open", reps: 6, version: 4, note: "Left first" }),
  sets: [],
  ...more,
});

let stands: Schemas["RideDetail"];
beforeEach(() => {
  stands = ride();
  outbox.flush.mockReset().mockResolvedValue(undefined);
  outbox.waitingFor.mockReset().mockReturnValue([]);
  server.GET.mockReset().mockImplementation((path: string) =>
    answer(path.endsWith("/summary") ? came : stands),
  );
  server.PATCH.mockReset().mockImplementation(() => answer({ ...stands, state: "closed" }));
});

function open() {
  const { wrapper, user } = around();
  const onLeave = vi.fn();
  render(<CloseRide ride={ride()} book={book} reps={6} onLeave={onLeave} />, { wrapper });
  return { user, onLeave };
}

const note = () => screen.getByLabelText<HTMLTextAreaElement>("Note for tomorrow");
const sent = () => server.PATCH.mock.lastCall?.[1].body as Schemas["RideChange"];

test("says what the ride came to, and closes with the note, the signs and the minutes", async () => {
  const { user } = open();
  await screen.findByText(/gave at an egg in 0.9 s/);
  await screen.findByText(/120 over seven days/);
  await user.clear(note());
  await user.type(note(), "Right first tomorrow");
  await user.click(screen.getByText("tail wrings"));
  await user.type(screen.getByLabelText("jog"), "x8");
  await user.click(screen.getByRole("button", { name: "Close the ride" }));
  await vi.waitFor(() => expect(server.PATCH).toHaveBeenCalledOnce());
  expect(sent()).toMatchObject({
    version: 4,
    state: "closed",
    note: "Right first tomorrow",
    signs: ["tail"],
    minutes: { stand: 5, walk: 12, jog: 8, lope: 0, run: 0 },
  });
});

test("waits for reps that are not through, and keeps what was typed", async () => {
  const { user } = open();
  outbox.waitingFor.mockReturnValue([{}, {}]);
  await user.type(note(), ", soft");
  await user.click(screen.getByRole("button", { name: "Close the ride" }));
  await screen.findByText(/^2 reps are on this device and not sent yet/);
  expect(outbox.flush).toHaveBeenCalledOnce();
  expect(server.PATCH).not.toHaveBeenCalled();
  expect(note().value).toBe("Left first, soft");
});

test("what someone else wrote meanwhile is told once and not written over unseen", async () => {
  const { user } = open();
  await user.type(note(), ", soft");
  stands = ride({ note: "Sore behind?", signs: ["tail"], version: 5 });
  await user.click(screen.getByRole("button", { name: "Close the ride" }));
  await screen.findByText(/the note “Sore behind\?” and the signs tail wrings\. Nothing was written over/);
  expect(server.PATCH).not.toHaveBeenCalled();
  expect(note().value).toBe("Left first, soft");
  await user.click(screen.getByText("tail wrings"));
  await user.click(screen.getByRole("button", { name: "Close the ride" }));
  await vi.waitFor(() => expect(server.PATCH).toHaveBeenCalledOnce());
  expect(sent()).toMatchObject({ version: 5, note: "Left first, soft", signs: ["tail"] });
});

test("a change that takes nothing away is no news", async () => {
  const { user } = open();
  stands = ride({ version: 7, starts_at: "09:00:00" });
  await user.click(screen.getByRole("button", { name: "Close the ride" }));
  await vi.waitFor(() => expect(server.PATCH).toHaveBeenCalledOnce());
  expect(sent()).toMatchObject({ version: 7, starts_at: "09:00:00" });
});

test("the ride can go on", async () => {
  const { user, onLeave } = open();
  await user.click(screen.getByRole("button", { name: "Ride on" }));
  expect(onLeave).toHaveBeenCalledOnce();
});
