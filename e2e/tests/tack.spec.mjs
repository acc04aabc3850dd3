// Tack: a bit is measured by a tape and by the angle, hangs on the wall, is held on the bench, and two pieces are compared.
import { expect, test } from "@playwright/test";
import { newHorse, send, walkIn } from "./barn.mjs";

/** A leverage bit on a new horse; its id and the horse's. */
async function newBit(page, horse, name) {
  await newHorse(page, horse);
  const all = await (await page.request.get("/api/horses?limit=200")).json();
  const { id: horse_id } = all.items.find((h) => h.name === horse);
  const id = crypto.randomUUID();
  const made = await send(page, "PUT", `/api/horses/${horse_id}/gear/${id}`, {
    kind: "bit",
    name,
    mouthpiece: "leverage",
    since: "2026-01-05",
    mouth_seen: "2026-01-05",
    teeth_seen: "2026-01-05",
  });
  expect(made.status()).toBe(201);
  return { id, horse_id };
}

async function fill(form, values) {
  for (const [label, value] of Object.entries(values))
    await form.getByLabel(label).fill(value);
}

const tape = {
  "Mouthpiece to the ring above": "1 3/4",
  "Mouthpiece to the rein ring": "5",
  "Shank swept back": "15",
  "Strap longer than snug": "1 1/2",
  "Chin groove behind the mouthpiece": "2",
};

test("a leverage bit is measured by tape and by angle, and held on the bench", async ({
  page,
}) => {
  await walkIn(page);
  const { id } = await newBit(page, "Leverage Horse", "Swept shank");
  await page.goto("/tack");
  const board = page.getByRole("region", { name: "Leverage Horse" });
  await expect(board.getByText("not measured yet")).toBeVisible();
  await board.getByRole("button", { name: "Measure Swept shank" }).click();
  const form = page.getByRole("dialog", { name: /Swept shank/ });
  await expect(form.getByRole("button", { name: "Save" })).toBeDisabled();

  // Millimetres typed where inches are meant are asked about; what was typed is still there.
  await fill(form, {
    ...tape,
    "Mouthpiece to the ring above": "44",
    "Chin groove below the mouthpiece": "1/4",
  });
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form.getByText("were these 44 millimetres?")).toBeVisible();
  await form.getByLabel("Mouthpiece to the ring above").fill("1 3/4");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form).toBeHidden();
  await expect(board.getByText("holds well")).toBeVisible();

  // By the angle instead: where the shank stood when the strap was snug.
  await board.getByRole("button", { name: "Measure Swept shank" }).click();
  await form.getByRole("button", { name: "By the angle" }).click();
  await form.getByLabel("Shank turned when the strap is snug").fill("55");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form).toBeHidden();
  await expect(board.getByText("holds late")).toBeVisible();
  const wall = await (await page.request.get("/api/tack")).json();
  const kept = wall.items.find((p) => p.id === id).measured;
  expect(kept.version).toBe(2);
  expect((kept.measures.chin.tight * 180) / Math.PI).toBeCloseTo(55, 6);

  await board.getByRole("button", { name: "Swept shank on the bench" }).click();
  const facts = page.getByRole("region", { name: "Swept shank" });
  await expect(facts.getByText("The strap holds late, at 55°")).toBeVisible();
  await facts.getByRole("button", { name: "Fingers" }).click();
  await expect(facts.getByText("strap is tight")).toBeVisible();
  // Two holes tighter, it holds sooner; what is tried here is not kept.
  await facts.getByRole("button", { name: "A hole tighter" }).click();
  await facts.getByRole("button", { name: "A hole tighter" }).click();
  await expect(facts.getByText("tried here only")).toBeVisible();
  // By keys: the hand goes up to a tug, and down to where the strap is slack.
  const hand = page.getByRole("slider", { name: "Weight on each rein" });
  await hand.focus();
  for (let n = 0; n < 20; n++) await page.keyboard.press("ArrowRight");
  await expect(hand).toHaveAttribute("aria-valuetext", /^tug/);
  for (let n = 0; n < 50; n++) await page.keyboard.press("ArrowLeft");
  await expect(hand).toHaveAttribute("aria-valuetext", /^feather/);
  await expect(facts.getByText("strap is slack")).toBeVisible();
  // By mouse: the hand is dragged away from the mouth.
  const box = await hand.boundingBox();
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let n = 1; n <= 8; n++) await page.mouse.move(x + 25 * n, y - 4 * n);
  await page.mouse.up();
  await expect(hand).not.toHaveAttribute("aria-valuetext", /^feather/);
  // Another beside it, under the same hand.
  await page.getByLabel("Beside it").click();
  await page
    .getByRole("option", { name: /^smooth snaffle/ })
    .first()
    .click();
  await expect(
    page.getByRole("region", { name: "smooth snaffle" }),
  ).toContainText("1.0 × the reins");
});

test("the same answers in two snaffles are compared, and too few days say so", async ({
  page,
}) => {
  await walkIn(page);
  await page.goto("/tack");
  const gravel = page.getByRole("region", { name: "Gravel" });
  await gravel.getByRole("button", { name: "Compare" }).click();
  const same = page.getByRole("region", { name: "The same answers in both" });
  await expect(same.getByText(/^Weight on the reins: \d/)).toBeVisible();
  await expect(same).toContainText("training alone");
  await page.goto("/tack");
  const copper = page.getByRole("region", { name: "Old Copper" });
  await copper.getByRole("button", { name: "Compare" }).click();
  await expect(same).toContainText("Not yet: the same asks were ridden on");
});

test("the share of a ride in the two-rein is noted, and says what comes next", async ({
  page,
}) => {
  await walkIn(page);
  await page.goto("/tack?view=two-rein");
  const now = page.getByRole("region", { name: "Where it is" });
  await expect(now).toContainText(
    /^Begin the next ride with \d+ % on the bridle/,
  );
  await expect(now).toContainText("as likely as not by");
  await expect(
    page.getByRole("img", { name: /rides, from \d+ to \d+ percent/ }),
  ).toBeVisible();
  const form = page.getByRole("form", { name: "The share of the ride" });
  await form.getByLabel("Minutes").fill("40");
  await form.getByLabel("Began with, %").fill("30");
  await form.getByRole("button", { name: "Add a move" }).click();
  const move = form.getByRole("group", { name: "Move 1" });
  // Moves from before are there where the ride was noted already: the last one is ours.
  const groups = form.getByRole("group", { name: /^Move/ });
  const mine = (await groups.count()) > 1 ? groups.last() : move;
  await mine.getByLabel("After minutes").fill("41");
  await mine.getByLabel("To, %").fill("50");
  await form.getByRole("button", { name: "Save", exact: true }).click();
  await expect(form.getByText(/after the ride/)).toBeVisible();
  await mine.getByLabel("After minutes").fill("40");
  await form.getByRole("button", { name: "Save", exact: true }).click();
  await expect(form.getByRole("status")).toHaveText("Saved.");
  await expect(now).toBeVisible();
  // And by someone who never rode in it: what to do is said.
  await page.getByLabel("Horse", { exact: true }).click();
  await page.getByRole("option", { name: "Biscuit" }).click();
  await expect(
    page.getByText("No ride in the two-rein is noted yet."),
  ).toBeVisible();
});

test("an owner sees the wall of their own horses, and nothing to change", async ({
  page,
}) => {
  await walkIn(page, "Owner");
  await page.goto("/tack");
  await expect(page.getByRole("heading", { name: "Tack" })).toBeVisible();
  await expect(page.getByRole("button", { name: /^Measure/ })).toHaveCount(0);
  await expect(page.getByRole("group", { name: "View" })).toHaveCount(0);
});
