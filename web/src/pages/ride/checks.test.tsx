// @vitest-environment happy-dom
import { cleanup, render, screen, within } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { incidentsOf, plan as planQuery } from "../../api/queries";
import { aRideOfToday, around } from "../../tests/around";
import { Checks } from "./checks";
import { aCheck, aPlan } from "./plan.fixture";

const put = vi.hoisted(() => vi.fn());
vi.mock("../../offline/outbox", () => ({ put }));
afterEach(cleanup);
beforeEach(() => void put.mockReset());

const plan = aPlan({
  gear: ["g1"],
  waits_for: ["teeth"],
  checks: [aCheck("teeth", { must: true }), aCheck("one-rein-stop", { sides: ["left", "right"] })],
});
const gear = (id: string, name: string, archived = false) => ({ id, name, archived }) as Schemas["GearOut"];

function open(role?: Schemas["Role"], now = plan, incidents: Schemas["IncidentOut"][] = []) {
  const { client, wrapper, user } = around(role);
  client.setQueryData(planQuery("r1").queryKey, now);
  const did = { onWear: vi.fn(), onMount: vi.fn() };
  const ride = { ...aRideOfToday(), sets: [] };
  client.setQueryData(incidentsOf(ride.horse_id).queryKey, {
    items: incidents,
    may_ride: incidents[0]?.may_ride ?? "anyone",
  });
  const all = [gear("g1", "Smooth snaffle"), gear("g2", "Work saddle"), gear("g3", "Old bit", true)];
  render(<Checks ride={ride} plan={now} gear={all} {...did} />, { wrapper });
  return { client, user, ...did };
}

const line = (id: string) => {
  const found = screen.getAllByRole("listitem").find((li) => li.dataset.check === id);
  if (!found) throw new Error(`no check ${id}`);
  return within(found);
};

test("the ride waits until what must be answered is, and says for what", async () => {
  const { client, user, onMount } = open();
  expect(screen.getByRole("status").textContent).toBe("Answer first: why teeth.");
  const mount = screen.getByRole<HTMLButtonElement>("button", { name: "Get on" });
  expect(mount.disabled).toBe(true);
  await user.click(line("teeth").getByRole("button", { name: "OK" }));
  expect(put).toHaveBeenCalledWith({
    kind: "check",
    ride: "r1",
    rep: "teeth",
    body: { side: "both", answer: "well", words: "" },
  });
  // It stands on the device before the server has heard of it.
  const stands = client.getQueryData<Schemas["PlanOut"]>(planQuery("r1").queryKey);
  expect(stands?.waits_for).toEqual([]);

  cleanup();
  const now = open(undefined, stands);
  await now.user.click(screen.getByRole("button", { name: "Get on" }));
  expect(now.onMount).toHaveBeenCalledOnce();
  expect(onMount).not.toHaveBeenCalled();
});

test("a check of each side is answered for each side", async () => {
  const { client, user } = open();
  const stops = line("one-rein-stop");
  const [left, right] = stops.getAllByRole("button", { name: "Stops" });
  if (left) await user.click(left);
  const [, notRight] = stops.getAllByRole("button", { name: "Doesn't stop" });
  if (notRight) await user.click(notRight);
  expect(put.mock.calls.map(([item]) => item.body)).toEqual([
    { side: "left", answer: "well", words: "" },
    { side: "right", answer: "not", words: "" },
  ]);
  const stands = client.getQueryData<Schemas["PlanOut"]>(planQuery("r1").queryKey);
  expect(stands?.checks[1]?.answers.map((a) => [a.side, a.answer])).toEqual([
    ["left", "well"],
    ["right", "not"],
  ]);
  expect(right?.getAttribute("aria-pressed")).toBe("false");
});

test("only a trainer rides anyway, and only with a reason in writing", async () => {
  open("assistant");
  expect(screen.queryByRole("button", { name: "Ride anyway" })).toBeNull();
  cleanup();
  const { user } = open("trainer");
  await user.click(screen.getByRole("button", { name: "Ride anyway" }));
  await user.type(screen.getByLabelText("Why, in writing"), "  {Enter}");
  expect(put).not.toHaveBeenCalled();
  await user.type(screen.getByLabelText("Why, in writing"), "Halter only today");
  await user.click(screen.getByRole("button", { name: "Sign" }));
  expect(put.mock.lastCall?.[0].body).toEqual({
    side: "both",
    answer: "overruled",
    words: "Halter only today",
  });
  expect(screen.queryByLabelText("Why, in writing")).toBeNull();
});

test("what it is ridden in is picked from what is in use", async () => {
  const { user, onWear } = open();
  const worn = within(screen.getByRole("group", { name: "Ridden in" }));
  expect(worn.getAllByRole("button").map((b) => b.textContent)).toEqual(["Smooth snaffle", "Work saddle"]);
  await user.click(worn.getByRole("button", { name: "Work saddle" }));
  await user.click(worn.getByRole("button", { name: "Smooth snaffle" }));
  expect(onWear.mock.calls).toEqual([[["g1", "g2"]], [[]]]);
});

test("the last incident says before every ride who may ride, until anyone may again", () => {
  const incident = (kind: Schemas["IncidentKind"], may_ride: Schemas["MayRide"]): Schemas["IncidentOut"] => ({
    id: kind,
    happened_on: "2026-11-20",
    kind,
    rider: "Dell Okafor",
    before: "A dog under the fence",
    hurt: "",
    may_ride,
    made_by: "Mara Quill",
  });
  open(undefined, plan, [incident("bolted", "trainer"), incident("bucked", "nobody")]);
  expect(screen.getByRole("alert").textContent).toContain(
    "It bolted on Fri, Nov 20 with Dell Okafor up: A dog under the fence. Only the trainer rides it.",
  );
  cleanup();
  open(undefined, plan, [incident("bucked", "anyone"), incident("bolted", "trainer")]);
  expect(screen.queryByRole("alert")).toBeNull();
});
