// Logging as it happens: sets by taps, a helper's phone on the same ride, and what is looked for before the first ask.
import { expect, test } from "@playwright/test";
import {
  getOnIfAsked,
  newHorse,
  repsOnServer,
  ride,
  rideIdOf,
  send,
  walkIn,
  askByKeys,
} from "./barn.mjs";

test("six of eight at an egg on the left are four taps, and eight reps on the server", async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await walkIn(page);
  await newHorse(page, "By Taps");
  await ride(page, "By Taps");
  await page.getByRole("button", { name: "Log a set" }).click();
  const sheet = page.getByRole("dialog", { name: /^A set of/ });
  await sheet.getByRole("button", { name: "Gave 6" }).click();
  await sheet.getByRole("button", { name: "egg" }).click();
  await sheet.getByRole("button", { name: "1.5 seconds" }).click();
  await sheet.getByRole("button", { name: "Log left" }).click();
  await expect(page.getByText("8 reps, all sent")).toBeVisible();
  await expect(page.getByRole("group", { name: "Reps left" })).toContainText(
    "gave 6 of 8",
  );
  // The next set begins with the weight and the seconds of this one.
  await page.keyboard.press("s");
  await expect(sheet.getByRole("button", { name: "egg" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await sheet.getByRole("button", { name: "5 asks", exact: true }).click();
  await sheet.getByRole("button", { name: "Gave 5" }).click();
  await sheet.getByRole("button", { name: "Log right" }).click();
  await expect(page.getByText("13 reps, all sent")).toBeVisible();
  const reps = await repsOnServer(page, rideIdOf(page));
  expect(reps).toHaveLength(13);
  expect(reps.filter((r) => r.outcome === "gave")).toHaveLength(11);
  expect(reps.every((r) => r.weight === "egg")).toBe(true);
  expect(reps.every((r) => r.seconds === 1.5)).toBe(true);
});

test("a helper's phone and the rider's log into one ride, and each sees what the other logged", async ({
  browser,
  baseURL,
}) => {
  const [rider, helper] = await Promise.all(
    [1, 2].map(async () => (await browser.newContext({ baseURL })).newPage()),
  );
  await walkIn(rider);
  await newHorse(rider, "Two Phones");
  await ride(rider, "Two Phones");
  await walkIn(helper);
  await helper.goto(rider.url());
  await getOnIfAsked(helper, helper.getByRole("group", { name: "Reps left" }));
  await askByKeys(rider, { side: "left", outcome: "gave", weight: "egg" });
  await askByKeys(helper, { side: "right", outcome: "gave", weight: "lemon" });
  for (const page of [rider, helper]) {
    await expect(page.getByText("2 reps, all sent")).toBeVisible();
    await expect(page.getByRole("group", { name: "Reps left" })).toContainText(
      "gave 1 of 1",
    );
    await expect(page.getByRole("group", { name: "Reps right" })).toContainText(
      "gave 1 of 1",
    );
  }
  expect(await repsOnServer(rider, rideIdOf(rider))).toHaveLength(2);
});

test("before the first ask stands last time's, and any rung is found by its name", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Last Time");
  const horse = page.url().split("/horses/")[1];
  const me = await (await page.request.get("/api/me")).json();
  const yesterday = new Date(Date.parse(`${me.today}T00:00:00Z`) - 86_400_000)
    .toISOString()
    .slice(0, 10);
  const reps = ["none", "gave", "gave", "gave"].map((outcome, n) => ({
    id: crypto.randomUUID(),
    outcome,
    weight: n === 0 ? "hand" : "lemon",
    seconds: n === 0 ? null : 1.4,
  }));
  await send(page, "PUT", `/api/rides/${crypto.randomUUID()}`, {
    horse_id: horse,
    rider_id: me.id,
    date: yesterday,
    place: "arena",
    entered: "afterwards",
    sets: [
      {
        id: crypto.randomUUID(),
        position: 0,
        rung: "G7",
        gait: "walk",
        side: "left",
        reps,
      },
    ],
  });
  await ride(page, "Last Time");
  const before = page.getByRole("group", { name: "Last time" });
  await expect(before).toContainText("3 of 4, first ask hand");
  await askByKeys(page, { side: "left", outcome: "gave", weight: "egg" });
  await expect(before).toContainText(/today egg \d\.\d s/);
  await page.getByRole("button", { name: "Find", exact: true }).click();
  const finder = page.getByRole("dialog", { name: "Find a rung" });
  await finder.getByLabel("Name, id or ladder").fill("flying");
  await expect(
    finder.getByRole("button", { name: /Flying change/ }),
  ).toContainText("never taught");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Rung", { exact: true })).toHaveValue("L7");
});
