// A ladder of the barn's own: what its rungs take follows from what was said of them, not from their letter.
import { expect, test } from "@playwright/test";
import { newHorse, padOf, ride, send, walkIn } from "./barn.mjs";

const pick = async (dialog, label, option) => {
  await dialog.getByLabel(label).click();
  await dialog.page().getByRole("option", { name: option }).click();
};

/** Rides of five days on which the one-rein stop came every time. */
async function ownsTheBrake(page, horse) {
  const me = await (await page.request.get("/api/me")).json();
  const ago = (days) =>
    new Date(Date.parse(`${me.today}T00:00:00Z`) - days * 86_400_000)
      .toISOString()
      .slice(0, 10);
  const reps = (n) =>
    Array.from({ length: n }, () => ({
      id: crypto.randomUUID(),
      outcome: "gave",
      weight: "lemon",
    }));
  for (const days of [12, 10, 8, 6, 4]) {
    const sets = ["walk", "jog"].flatMap((gait) =>
      ["left", "right"].map((side) => ({ gait, side })),
    );
    const sent = await send(page, "PUT", `/api/rides/${crypto.randomUUID()}`, {
      horse_id: horse,
      rider_id: me.id,
      date: ago(days),
      place: "arena",
      entered: "afterwards",
      sets: sets.map((set, position) => ({
        id: crypto.randomUUID(),
        position,
        rung: "G7",
        reps: reps(9),
        ...set,
      })),
    });
    expect(sent.status()).toBe(201);
  }
}

test("a cattle rung on a ladder of the barn's own is planned, ridden and counted as one", async ({
  page,
}) => {
  await walkIn(page);
  await page.goto("/book");
  await page.getByRole("button", { name: "Add a rung" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Its id").fill("X1");
  await dialog.getByLabel("Name of a new ladder").fill("Roping");
  await dialog.getByLabel("Its name").fill("Trail a steer");
  await pick(dialog, "Sides", "both reins together");
  await dialog.getByLabel("Gaits, slowest first").fill("jog");
  await dialog.getByLabel("The ask, cue by cue").fill("sit; leg; wait");
  await dialog.getByLabel("The answer").fill("holds its place");
  await pick(dialog, "Worked on", "cattle");
  await pick(dialog, "How often", "every third day at the most");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByRole("tab", { name: "X Roping" })).toBeVisible();

  // The plan of a ride knows its ask. What is ridden at the jog needs the brake there: she owns it.
  await newHorse(page, "Calico");
  const horse = page.url().split("/horses/")[1];
  await ownsTheBrake(page, horse);
  await ride(page, "Calico");
  await page.keyboard.press("p");
  const sheet = page.getByRole("dialog", { name: "The ride of Calico" });
  await sheet.getByLabel("Add a subject").click();
  await page.getByRole("option", { name: /Trail a steer/ }).click();
  await expect(sheet.getByRole("list", { name: "Parts" })).toContainText(
    "Sit, leg, wait",
  );
  await sheet.getByRole("button", { name: "Ride it" }).click();

  // Ridden, it asks which cow.
  await page.getByLabel("Rung").selectOption("X1");
  await page.getByRole("button", { name: /hand over/ }).click();
  await page.getByLabel("Which cow").fill("42");
  await page.getByRole("button", { name: "Ride on" }).click();
  for (let n = 0; n < 3; n++) {
    const box = await padOf(page, "both").boundingBox();
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.waitForTimeout(300);
    await page.mouse.up();
    await page.keyboard.press("g");
    await page.keyboard.press("3");
  }
  await expect(page.getByText("3 reps, all sent")).toBeVisible();

  // In the week it takes a cow, and is not drilled.
  const today = (await (await page.request.get("/api/me")).json()).today;
  const next = new Date(Date.parse(`${today}T00:00:00Z`) + 7 * 86_400_000);
  const week = await (
    await page.request.get(`/api/weeks/${next.toISOString().slice(0, 10)}`)
  ).json();
  const work = week.works.find((w) => w.id === `${horse}/X1`);
  expect(work).toMatchObject({ cows: 1, gap_days: 3, places: ["arena"] });
  expect(work.why.join(" ")).toContain("It is not drilled: 3 days between");

  // In the balance its ladder has a row of its own.
  await page.goto("/week/balance");
  await expect(page.getByRole("main")).toContainText("Roping");

  // The barn's book is as it was for the tests that follow.
  const gone = await send(
    page,
    "PUT",
    `/api/curriculum/changes/${crypto.randomUUID()}`,
    {
      change: { kind: "leave-out", rung: "X1" },
    },
  );
  expect(gone.ok()).toBe(true);
});
