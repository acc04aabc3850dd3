// Time off and the way back, the barn's own places, and what is told of a ride afterwards.
import { expect, test } from "@playwright/test";
import { newHorse, openHorse, send, walkIn } from "./barn.mjs";

const daysAgo = (today, n) =>
  new Date(Date.parse(`${today}T00:00:00Z`) - n * 86_400_000)
    .toISOString()
    .slice(0, 10);

test("a horse back from an injury is led first, and its ride waits until the vet has spoken", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Back Again");
  const { today } = await (await page.request.get("/api/me")).json();
  await page.getByRole("button", { name: "Note time off" }).click();
  const form = page.getByRole("dialog", { name: "Time off" });
  await form.getByLabel("First day off").fill(daysAgo(today, 30));
  await form.getByLabel("First day back").fill(daysAgo(today, 30));
  await form.getByLabel("Why").click();
  await page.getByRole("option", { name: "Injury" }).click();
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form).toContainText("after the first day off");
  await form.getByLabel("First day back").fill(today);
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form).toBeHidden();
  const off = page.getByRole("region", { name: "Time off" });
  await expect(off).toContainText("Day 1 of 20 back in work: walk in hand");
  await expect(off).toContainText("A vet has not said yet");
  await expect(off.locator("[aria-current=step]")).toContainText("In hand");

  await page
    .getByRole("button", { name: "Ride", exact: true })
    .or(page.getByRole("link", { name: "Ride", exact: true }))
    .click();
  await expect(
    page.getByText("A vet has said that it may work, and how much"),
  ).toBeVisible();
  await openHorse(page, "Back Again");
  await off.getByRole("button", { name: "Change" }).click();
  await form.getByLabel("A vet has said that it may work").check();
  await form.getByLabel("What the vet said").fill("Sound, walk a week");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(off).toContainText("The vet: Sound, walk a week");
  await expect(off).not.toContainText("A vet has not said yet");
  await page.goto("/");
  await expect(
    page.getByRole("listitem").filter({ hasText: "Back Again" }).first(),
  ).toContainText("Day 1 of 20 back in work");
});

test("a ride entered afterwards is on one of the barn's own places, with what it wore and its signs", async ({
  page,
}) => {
  await walkIn(page);
  const place = `Mesa pen ${test.info().retry}`;
  await page.goto("/barn");
  await page.getByRole("button", { name: "Add a place" }).click();
  const form = page.getByRole("dialog", { name: "Add a place to ride" });
  await form.getByLabel("Name").fill(place);
  await form.getByLabel("Surface").click();
  await page.getByRole("option", { name: "Hard" }).click();
  await form.getByLabel("Length, ft").fill("100");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form).toContainText("give length and width, or neither");
  await form.getByLabel("Width, ft").fill("60");
  await form.getByRole("button", { name: "Save" }).click();
  const row = page.getByRole("row").filter({ hasText: place });
  await expect(row).toContainText("100 × 60 ft");
  await expect(row).toContainText("Hard ground: no speed");

  await newHorse(page, "Told Later");
  const horse = page.url().split("/horses/")[1];
  const { today } = await (await page.request.get("/api/me")).json();
  await send(page, "PUT", `/api/horses/${horse}/gear/${crypto.randomUUID()}`, {
    kind: "saddle",
    name: "Told saddle",
    mouthpiece: null,
    since: today,
  });
  await page.goto(`/horses/${horse}/afterwards`);
  await page.getByLabel("gave, set 1").fill("6");
  await page.getByLabel("Place").selectOption(place);
  await page.getByRole("button", { name: "Told saddle" }).click();
  await page.getByRole("button", { name: "yawns" }).click();
  await page.getByLabel("walk", { exact: true }).fill("25");
  await page.getByRole("button", { name: "Save the ride" }).click();
  await expect(page.getByText(place)).toBeVisible();
  const kept = (
    await (await page.request.get(`/api/horses/${horse}/rides`)).json()
  ).items[0];
  expect([kept.ground_name, kept.signs, kept.minutes.walk]).toEqual([
    place,
    ["yawns"],
    25,
  ]);
  // The next ride of this horse starts where the last one was.
  await page
    .getByRole("button", { name: "Ride", exact: true })
    .or(page.getByRole("link", { name: "Ride", exact: true }))
    .click();
  await expect(page.getByRole("button", { name: "Get on" })).toBeVisible();
  const day = await (await page.request.get("/api/today")).json();
  const next = day.rides.find((r) => r.ride.horse_id === horse);
  expect(next.ride.ground_name).toBe(place);
});
