// A horse slips, an overrule, a pattern of pain, a changed standard: the calls, and what people write against them.
import { expect, test } from "@playwright/test";
import { newHorse, walkIn } from "./barn.mjs";

const met = { outcome: "gave", weight: "egg", missing: null, faults: [] };
const missed = { outcome: "none", weight: "hand", missing: null, faults: [] };

/** Enters rides afterwards through the same door as the page: `days` ago, and for each rung and side how many met and missed. Set-ups are
 * counted. */
async function enter(page, horse, rides) {
  const me = await (await page.request.get("/api/me")).json();
  for (const [ago, sets] of rides) {
    const date = new Date(
      Date.parse(`${me.today}T00:00:00Z`) - ago * 86_400_000,
    )
      .toISOString()
      .slice(0, 10);
    const answer = await page.request.put(`/api/rides/${crypto.randomUUID()}`, {
      headers: { "x-csrf-token": me.csrf },
      data: {
        horse_id: horse,
        rider_id: me.id,
        date,
        place: "arena",
        entered: "afterwards",
        sets: sets.map(([rung, gait, side, good, bad], position) => ({
          id: crypto.randomUUID(),
          position,
          rung,
          gait,
          side,
          ...(rung === "L1" && {
            counted: {
              count: { kind: "set-ups", asked: good + bad, accepted: good },
            },
          }),
          reps:
            rung === "L1"
              ? []
              : [...Array(good).fill(met), ...Array(bad).fill(missed)].map(
                  (rep) => ({ id: crypto.randomUUID(), ...rep }),
                ),
        })),
      },
    });
    expect(answer.status()).toBe(201);
  }
}

const horseId = (page) => page.url().split("/horses/")[1];
const card = (page, step) => page.locator(`[data-call="${step}"]`);

test("a horse slips, and the call goes back and says why", async ({ page }) => {
  await walkIn(page);
  await newHorse(page, "Slipper");
  const both = (left, right) => [
    ["G7", "walk", "left", left, 10 - left],
    ["G7", "walk", "right", right, 10 - right],
  ];
  const horse = horseId(page);
  await enter(
    page,
    horse,
    [30, 28, 26, 24, 22, 20, 18].map((ago) => [ago, both(10, 10)]),
  );
  await page.reload();
  await expect(card(page, "G7@walk")).toContainText("Advance");
  await enter(
    page,
    horse,
    [10, 8, 6, 4].map((ago) => [ago, both(2, 10)]),
  );
  await page.reload();
  const call = card(page, "G7@walk");
  await expect(call).toContainText("Back");
  await expect(call).toContainText(
    /Left: was owned, and is (over )?\d+% likely to be under the standard now/,
  );
  await expect(call).toContainText("Left met the standard 6 of 30 times");

  // The zone behind it tells the same, and leads to the reps.
  await page.getByRole("button", { name: /^Left neck: \d+%/ }).click();
  await expect(page.locator("[data-zone=neck]")).toContainText("met 6 of 30");
});

test("an overrule is written, steers the call, and shows up later with who was right", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Second Guess");
  const horse = horseId(page);
  const day = [
    ["G7", "walk", "left", 9, 1],
    ["G7", "walk", "right", 9, 1],
  ];
  await enter(page, horse, [
    [3, day],
    [1, day],
  ]);
  await page.reload();
  await expect(card(page, "G7@walk")).toContainText("2 of 3 days");
  await page
    .getByRole("button", { name: "Overrule One-rein stop at the walk" })
    .click();
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("this cannot be empty")).toBeVisible();
  await page.getByLabel("Why").fill("She had it in the last barn");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(card(page, "G7@walk")).toContainText(
    /Overruled on .*: advance, against hold/,
  );
  const written = page.getByRole("region", { name: "Overrules and findings" });
  await expect(written).toContainText(
    "Mara Quill called advance on one-rein stop at the walk against hold",
  );
  await expect(written).toContainText("not decided yet");
  await page.goto("/horses/owned");
  const judged = page.getByRole("region", {
    name: "Overrules, and who was right",
  });
  await expect(judged).toContainText("She had it in the last barn");
  await expect(judged).toContainText(/was right in \d of [1-9]/);
});

test("a pattern of pain stops the training calls until someone writes down what was found", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Ouch");
  const horse = horseId(page);
  const ride = (left, right) =>
    [
      ["G7", "walk"],
      ["S4", "stand"],
      ["L1", "walk"],
    ].flatMap(([rung, gait]) => [
      [rung, gait, "left", left, 10 - left],
      [rung, gait, "right", right, 10 - right],
    ]);
  await enter(
    page,
    horse,
    [24, 22, 20, 18, 16, 14, 12, 10].map((ago) => [ago, ride(10, 10)]),
  );
  await enter(page, horse, [
    [4, ride(1, 10)],
    [2, ride(0, 10)],
  ]);
  await page.reload();
  const alarm = page.locator("[data-horse-call=look-at]");
  await expect(alarm).toContainText(
    "Fell off to the left all at once, on 3 rungs",
  );
  await expect(
    page.getByRole("list", { name: "What to look at" }),
  ).toContainText("mouth");
  await expect(page.locator("[data-call]")).toHaveCount(0);
  await page.getByRole("button", { name: "Write down what was found" }).click();
  await page
    .getByLabel("What was found, and what was done")
    .fill("Bruised sole, near fore; four days off");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(alarm).toBeHidden();
  await expect(page.locator("[data-call]").first()).toBeVisible();
  await expect(
    page.getByRole("region", { name: "Overrules and findings" }),
  ).toContainText("Bruised sole");
});

test("a standard is changed, and the past stands", async ({ page }) => {
  await walkIn(page);
  await newHorse(page, "Backs Through");
  const horse = horseId(page);
  await enter(
    page,
    horse,
    [12, 10, 8].map((ago) => [ago, [["O7", "walk", "both", 9, 1]]]),
  );
  const trace = async () =>
    (await page.request.get(`/api/horses/${horse}/trace?step=O7`)).json();
  const before = await trace();
  await page.goto("/book/O7");
  await expect(page.getByRole("article")).toContainText(
    "8 of 10 at a lemon or less",
  );
  await page.getByRole("button", { name: "Change the standard" }).click();
  await page.getByLabel("Percent of reps").fill("900");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("dialog")).toContainText("cannot be a standard");
  await page.getByLabel("Percent of reps").fill("90");
  await page.getByLabel("Heaviest weight in the hand").click();
  await page.getByRole("option", { name: "a feather" }).click();
  await page.getByRole("button", { name: "Save" }).click();
  const rung = page.getByRole("article");
  await expect(rung).toContainText("9 of 10 at a feather or less");
  await expect(rung).toContainText(/Before .*: 8 of 10 at a lemon or less/);
  const after = await trace();
  expect(after.standard).toBe(0.9);
  expect(after.points).toEqual(before.points);
  await page.goto(`/horses/${horse}`);
  await page.getByRole("button", { name: /^Back through:/ }).click();
  await expect(
    page.getByRole("region", { name: "Back through" }),
  ).toContainText(/Until .*8 of 10 at a lemon/);
});
