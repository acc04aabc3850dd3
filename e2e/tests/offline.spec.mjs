// No signal, lost answers, two devices, a clock that is wrong: counted rep by rep at the end.
import { expect, test } from "@playwright/test";
import {
  askByKeys,
  newHorse,
  repsOnServer,
  ride,
  rideIdOf,
  send,
  walkIn,
} from "./barn.mjs";
import { bring, settled } from "./no-signal.mjs";

test.use({ serviceWorkers: "allow" });

const one = { side: "left", outcome: "gave", weight: "egg", ms: 180 };

test("Today and Ride open with the network gone, from a cold start, and what is logged arrives once", async ({
  page,
  context,
}) => {
  await walkIn(page);
  await newHorse(page, "No Signal");
  await page.getByRole("button", { name: "Ride", exact: true }).click();
  await page.getByRole("button", { name: "Get on" }).waitFor();
  const id = rideIdOf(page);
  await bring(page, id);
  await context.setOffline(true);
  await page.close();
  const cold = await context.newPage();
  await cold.goto("/");
  await expect(cold.getByRole("list", { name: "Rides" })).toContainText(
    "No Signal",
  );
  await cold.getByRole("link", { name: "Ride No Signal" }).click();
  await cold.getByRole("button", { name: "Get on" }).click();
  for (let n = 0; n < 5; n++) await askByKeys(cold, one);
  await expect(cold.getByText("5 reps, 5 to send")).toBeVisible();
  await expect(cold.getByRole("status", { name: "Coach" })).toContainText(
    "the coach is silent",
  );
  // Closed and opened again, still without a network: nothing is gone.
  await cold.reload();
  await expect(cold.getByText("5 reps, 5 to send")).toBeVisible();
  await askByKeys(cold, one);
  await cold.goto("/");
  await expect(cold.getByText("6 on this device, not sent yet.")).toBeVisible();
  await expect(
    cold.getByRole("navigation", { name: "Today's horses" }),
  ).toContainText("6 to send");
  await context.setOffline(false);
  await expect
    .poll(async () => (await repsOnServer(cold, id)).length, {
      timeout: 60_000,
    })
    .toBe(6);
  const reps = await repsOnServer(cold, id);
  expect(reps.map((r) => r.position)).toEqual([0, 1, 2, 3, 4, 5]);
});

test("a figure that was brought to a ride is called with the network gone, from a cold start", async ({
  page,
  context,
}) => {
  await walkIn(page);
  await newHorse(page, "Called Far Out");
  await page.getByRole("button", { name: "Ride", exact: true }).click();
  await page.getByRole("button", { name: "Get on" }).waitFor();
  const id = rideIdOf(page);
  const address = `/ride/${id}?figure=ready%203`;
  await page.goto(address);
  await page.getByRole("button", { name: "Get on" }).click();
  await expect(page.getByRole("group", { name: "Calls" })).toBeVisible();
  await bring(page, id);
  await page.goto(address);
  await expect(page.getByRole("group", { name: "Calls" })).toBeVisible();
  await context.setOffline(true);
  await page.close();
  const cold = await context.newPage();
  await cold.goto(address);
  const calls = cold.getByRole("group", { name: "Calls" });
  await calls.getByRole("button", { name: "Done" }).click();
  await expect(calls.getByRole("status")).toContainText("2 of 7");
  await context.setOffline(false);
  const moves = async () =>
    (await (await cold.request.get(`/api/rides/${id}/exercises`)).json()).events
      .length;
  await expect.poll(moves, { timeout: 30_000 }).toBe(1);
});

test("a ride that is opened as the network goes comes from what the device kept", async ({
  page,
  context,
}) => {
  await walkIn(page);
  await newHorse(page, "Gone Quiet");
  await page.getByRole("button", { name: "Ride", exact: true }).click();
  await page.getByRole("button", { name: "Get on" }).waitFor();
  await bring(page, rideIdOf(page));
  // Anew, and with nothing of the ride in the page yet.
  await page.goto("/");
  const ride = page.getByRole("link", { name: "Ride Gone Quiet" });
  await ride.waitFor();
  await context.setOffline(true);
  await ride.click();
  await expect(
    page.getByRole("heading", { name: "Gone Quiet", level: 1 }),
  ).toBeVisible();
  await page.getByRole("button", { name: "Get on" }).click();
  await expect(page.getByLabel("Rung")).toBeVisible();
});

test("a pass that is logged with no signal, on a page that is closed, arrives once", async ({
  page,
  context,
}) => {
  await walkIn(page);
  await newHorse(page, "Far Pen");
  await page.getByRole("button", { name: "Ride", exact: true }).click();
  await page.getByRole("button", { name: "Get on" }).waitFor();
  const id = rideIdOf(page);
  await bring(page, id);
  const { horse_id } = await (
    await page.request.get(`/api/rides/${id}`)
  ).json();
  await page.goto(`/ride/${id}`);
  await page.getByRole("button", { name: "Get on" }).click();
  await context.setOffline(true);
  await page.getByLabel("Rung").selectOption("P3");
  await page.getByRole("button", { name: "Log a pass" }).click();
  const form = page.getByRole("form", { name: "Log a pass" });
  await form.getByRole("button", { name: "Barrel 2 In: Wide" }).click();
  await form.getByLabel("Seconds").fill("61.2");
  await form.getByRole("button", { name: "Log the pass" }).click();
  await expect(form.getByRole("status")).toContainText("kept on this device");
  await page.close();
  // Another page of the device knows of it, and sends it once there is a network.
  const cold = await context.newPage();
  await cold.goto(`/ride/${id}`);
  await cold.getByLabel("Rung").selectOption("P3");
  await expect(
    cold.getByRole("button", { name: "Log a pass (1 not sent yet)" }),
  ).toBeVisible();
  await context.setOffline(false);
  const passes = async () =>
    (await (await cold.request.get(`/api/horses/${horse_id}/passes`)).json())
      .items;
  await expect
    .poll(async () => (await passes()).length, { timeout: 60_000 })
    .toBe(1);
  const [pass] = await passes();
  expect(pass).toMatchObject({ ride_id: id, seconds: 61.2 });
  expect(pass.barrels[1].pocket).toEqual(["wide", null, null]);
  await expect(
    cold.getByRole("button", { name: "Log a pass", exact: true }),
  ).toBeVisible();
});

test("answers that are lost on the way back are asked for again and counted once", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Lost Answers");
  await ride(page, "Lost Answers");
  let lost = 0;
  await page.route("**/api/rides/*/reps/*", async (route) => {
    // The server gets it and answers; every second answer never arrives.
    const answer = await route.fetch();
    if (++lost % 2) await route.abort("connectionreset");
    else await route.fulfill({ response: answer });
  });
  for (let n = 0; n < 4; n++) await askByKeys(page, one);
  await expect(page.getByText("4 reps, all sent")).toBeVisible({
    timeout: 60_000,
  });
  expect(await repsOnServer(page, rideIdOf(page))).toHaveLength(4);
  expect(lost).toBeGreaterThan(4);
});

test("the same batch sent three times is one batch", async ({ page }) => {
  await walkIn(page);
  await newHorse(page, "Three Times");
  await ride(page, "Three Times");
  const sent = [];
  await page.route("**/api/rides/*/reps/*", async (route) => {
    sent.push([
      new URL(route.request().url()).pathname,
      route.request().postDataJSON(),
    ]);
    await route.continue();
  });
  for (let n = 0; n < 6; n++) await askByKeys(page, one);
  await expect(page.getByText("6 reps, all sent")).toBeVisible();
  for (let again = 0; again < 2; again++)
    for (const [path, body] of sent)
      expect((await send(page, "PUT", path, body)).status()).toBe(200);
  expect(await repsOnServer(page, rideIdOf(page))).toHaveLength(6);
});

test("two devices on one ride merge rep by rep, and an edit that lost a race is shown", async ({
  page,
  browser,
}) => {
  await walkIn(page);
  await newHorse(page, "Two Devices");
  await ride(page, "Two Devices");
  await askByKeys(page, one);
  await expect(page.getByText("1 rep, all sent")).toBeVisible();
  const other = await (await browser.newContext()).newPage();
  await walkIn(other, "Assistant");
  await other.goto(page.url());
  await expect(other.getByText("1 rep, all sent")).toBeVisible();
  for (let n = 0; n < 3; n++) {
    await askByKeys(page, one);
    await askByKeys(other, { ...one, side: "right", outcome: "tried" });
  }
  await expect(page.getByText("7 reps, all sent")).toBeVisible({
    timeout: 60_000,
  });
  await expect(other.getByText("7 reps, all sent")).toBeVisible({
    timeout: 60_000,
  });
  expect(await repsOnServer(page, rideIdOf(page))).toHaveLength(7);

  // Both put the same rep right; the second learns what it is now, and loses nothing.
  const [rep] = await repsOnServer(page, rideIdOf(page));
  const put = (weight) => ({
    version: rep.version,
    outcome: "tried",
    weight,
    missing: "second",
    seconds: 1,
    faults: [],
    removed: false,
  });
  await other.context().setOffline(true);
  expect(
    (await send(page, "PATCH", `/api/reps/${rep.id}`, put("tug"))).status(),
  ).toBe(200);
  await other
    .getByRole("group", { name: "Reps left" })
    .getByRole("button")
    .click();
  const opened = other.getByRole("group", { name: "What it came to" });
  for (let n = 0; n < 3; n++)
    await other
      .getByRole("group", { name: "Reps left" })
      .getByRole("button")
      .click();
  await expect(opened).toContainText("put right");
  await other.keyboard.press("5");
  await other.context().setOffline(false);
  const note = other
    .getByRole("status")
    .filter({ hasText: "Couldn't save a change to a rep." });
  await expect(note).toContainText(
    "You made it gave at orange, it is now tried at tug",
    { timeout: 60_000 },
  );
  await note.getByRole("button", { name: "Discard" }).click();
  await expect(note).toBeHidden();
  await other.context().close();
});

test("signing out with unsent reps warns, and they are there for the same person afterwards", async ({
  page,
  context,
}) => {
  await walkIn(page);
  await newHorse(page, "Signs Out");
  await ride(page, "Signs Out");
  const id = rideIdOf(page);
  await page.route("**/api/rides/*/reps/*", (route) =>
    route.abort("connectionreset"),
  );
  await askByKeys(page, one);
  await expect(page.getByText("1 rep, 1 to send")).toBeVisible();
  await page.getByRole("button", { name: "Leave" }).click();
  await page.getByRole("link", { name: "Barn" }).click();
  await page.getByRole("button", { name: "Sign out", exact: true }).click();
  await expect(
    page.getByRole("alertdialog", { name: "Not sent yet" }),
  ).toContainText("1 on this device are not sent yet");
  await page.getByRole("button", { name: "Sign out anyway" }).click();
  await expect(page.getByRole("button", { name: "Trainer" })).toBeVisible();
  await page.unroute("**/api/rides/*/reps/*");
  // Somebody else does not see or send them.
  await page.getByRole("button", { name: "Assistant" }).click();
  await expect(page.getByRole("navigation", { name: "Pages" })).toBeVisible();
  expect(await repsOnServer(page, id)).toHaveLength(0);
  await context.clearCookies();
  await walkIn(page);
  await expect.poll(async () => (await repsOnServer(page, id)).length).toBe(1);
});

test("a device that is full, and one whose clock is off by a day, say so and lose nothing", async ({
  page,
}) => {
  await page.clock.setFixedTime(new Date(Date.now() - 26 * 3600_000));
  await walkIn(page);
  await expect(
    page.getByText(/This device's clock is 26 hours behind/),
  ).toBeVisible();
  await page.clock.setSystemTime(new Date());
  await newHorse(page, "Full Device");
  await page.addInitScript(() => {
    Storage.prototype.setItem = () => {
      throw new DOMException("full", "QuotaExceededError");
    };
  });
  await page.reload();
  await ride(page, "Full Device");
  await page.route("**/api/rides/*/reps/*", (route) =>
    route.abort("connectionreset"),
  );
  await askByKeys(page, one);
  await expect(
    page.getByText(
      "This device cannot keep reps: it is full, or a private window.",
    ),
  ).toBeVisible();
  await page.unroute("**/api/rides/*/reps/*");
  await expect(page.getByText("1 rep, all sent")).toBeVisible({
    timeout: 60_000,
  });
  const today = (await (await page.request.get("/api/me")).json()).today;
  const told = await (
    await page.request.get(`/api/rides/${rideIdOf(page)}`)
  ).json();
  expect(told.date).toBe(today);
});

test("the week opens with the network gone, from a cold start, to be looked at", async ({
  page,
  context,
}) => {
  await walkIn(page);
  await settled(page);
  await page.goto("/week");
  const rides = (of) => of.locator("[data-ride]");
  await expect(rides(page)).not.toHaveCount(0);
  const many = await rides(page).count();
  await expect(
    page.getByRole("button", { name: "Someone is off" }),
  ).toBeVisible();
  await context.setOffline(true);
  await page.close();
  const cold = await context.newPage();
  await cold.goto("/week");
  await expect(
    cold.getByText("this is the week as this device saw it last"),
  ).toBeVisible();
  await expect(rides(cold)).toHaveCount(many);
  await rides(cold).first().click();
  await expect(cold.getByRole("region", { name: "The ride" })).toContainText(
    "rides a week",
  );
  await expect(
    cold.getByRole("button", { name: "Someone is off" }),
  ).toHaveCount(0);
  await context.setOffline(false);
  await expect(
    cold.getByRole("button", { name: "Someone is off" }),
  ).toBeVisible();
});
