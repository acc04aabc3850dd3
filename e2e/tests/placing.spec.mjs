// What was logged and did not land: shown whole, put on another ride, handed in for another, and never lost.
import { expect, test } from "@playwright/test";
import {
  askByKeys,
  getOn,
  newHorse,
  repsOnServer,
  ride,
  rideIdOf,
  send,
  walkIn,
} from "./barn.mjs";

const one = { side: "left", outcome: "gave", weight: "egg", ms: 180 };

/** Sends what is logged on one ride to another instead, as where the ride was moved meanwhile. */
const astray = (page, to) =>
  page.route("**/api/rides/*/reps/*", (route) =>
    route.continue({
      url: route
        .request()
        .url()
        .replace(/rides\/[^/]+/, `rides/${to}`),
    }),
  );

test("asks of a ride that was moved ahead wait on Today and are put on the ride of the day", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Moved Ahead");
  await ride(page, "Moved Ahead");
  const id = rideIdOf(page);
  const { horse_id, rider_id, date, place } = await (
    await page.request.get(`/api/rides/${id}`)
  ).json();
  const tomorrow = new Date(`${date}T12:00:00Z`);
  tomorrow.setUTCDate(tomorrow.getUTCDate() + 1);
  const moved = crypto.randomUUID();
  const made = await send(page, "PUT", `/api/rides/${moved}`, {
    horse_id,
    rider_id,
    place,
    date: tomorrow.toISOString().slice(0, 10),
    entered: "pen",
  });
  expect(made.status()).toBe(201);
  await astray(page, moved);
  await askByKeys(page, one);
  await askByKeys(page, { ...one, outcome: "none" });
  await expect(page.getByText("2 asks to be placed.")).toBeVisible({
    timeout: 40_000,
  });
  await page.unroute("**/api/rides/*/reps/*");
  await page.goto("/");
  const waiting = page.getByRole("group", { name: "2 asks to be placed" });
  await expect(waiting).toContainText(
    /2 asks of Moved Ahead by .*The ride is on .* now\./,
  );
  await expect(waiting.getByRole("listitem")).toHaveText([
    /^gave, .*egg/,
    /^none, .*egg/,
  ]);
  await waiting.getByLabel("Put them on").click();
  await page.getByRole("option", { name: /^Moved Ahead/ }).click();
  await expect(waiting).toBeHidden();
  expect(await repsOnServer(page, id)).toHaveLength(2);
});

test("what the server refused is shown whole, saved as a file, and put on another ride", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Gone Ride");
  await ride(page, "Gone Ride");
  const id = rideIdOf(page);
  await astray(page, crypto.randomUUID());
  await askByKeys(page, one);
  await askByKeys(page, { ...one, outcome: "tried" });
  await page.goto("/");
  const refused = page.getByRole("group", { name: "Couldn't save" });
  await expect(refused).toContainText("Couldn't save 2 asks of Gone Ride", {
    timeout: 40_000,
  });
  await expect(refused.getByRole("listitem")).toHaveCount(2);
  await expect(refused.getByRole("button", { name: "Discard" })).toBeHidden();
  const file = page.waitForEvent("download");
  await refused.getByRole("button", { name: "Save as a file" }).click();
  expect((await file).suggestedFilename()).toBe("not-saved.json");
  await refused.getByRole("button", { name: "Discard" }).click();
  await expect(
    refused.getByRole("button", { name: "Discard them for good" }),
  ).toBeVisible();
  await page.unroute("**/api/rides/*/reps/*");
  await refused.getByLabel("Put them on another ride").click();
  await page.getByRole("option", { name: /^Gone Ride/ }).click();
  await expect(refused).toBeHidden();
  await expect.poll(async () => (await repsOnServer(page, id)).length).toBe(2);
});

test("what an assistant left on the device is handed in as theirs by the trainer", async ({
  page,
  context,
}) => {
  await walkIn(page);
  await newHorse(page, "Left Behind");
  await ride(page, "Left Behind");
  const address = page.url();
  const id = rideIdOf(page);
  await context.clearCookies();
  await walkIn(page, "Assistant");
  const { name } = await (await page.request.get("/api/me")).json();
  await page.goto(address);
  await getOn(page);
  await page.route("**/api/rides/*/reps/*", (route) =>
    route.abort("connectionreset"),
  );
  await askByKeys(page, one);
  await expect(page.getByText("1 rep, 1 to send")).toBeVisible();
  await page.goto("about:blank");
  await page.unroute("**/api/rides/*/reps/*");
  await context.clearCookies();
  await walkIn(page);
  const left = page
    .getByRole("status")
    .filter({ hasText: `1 ask by ${name} is on this device, not sent.` });
  await left.getByRole("button", { name: `Hand in as ${name}'s` }).click();
  const waiting = page.getByRole("group", { name: "1 ask to be placed" });
  await expect(waiting).toContainText(`1 ask of Left Behind by ${name}`);
  await waiting.getByLabel("Put them on").click();
  await page.getByRole("option", { name: /^Left Behind/ }).click();
  await expect(waiting).toBeHidden();
  expect(await repsOnServer(page, id)).toHaveLength(1);
});
