// Tack: a bit is measured by a tape and by the angle, hangs on the wall, is held on the bench, and two pieces are compared.
import { expect, test } from "@playwright/test";
import { newHorse, ride, rideIdOf, send, walkIn } from "./barn.mjs";

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

/** A horse of the demo, in the view of one horse. */
async function openTack(page, name) {
  await page.goto("/tack");
  await page
    .getByRole("region", { name })
    .getByRole("button", { name: "Its road" })
    .click();
  await expect(page.getByLabel("Horse", { exact: true })).toContainText(name);
}

test("the same answers in two snaffles are compared, and too few days say so", async ({
  page,
}) => {
  await walkIn(page);
  await openTack(page, "Gravel");
  const same = page.getByRole("region", { name: "The same answers in both" });
  await expect(same.getByText(/^Weight on the reins: \d/)).toBeVisible();
  await expect(same).toContainText("training alone");
  await openTack(page, "Old Copper");
  await expect(same).toContainText("Not yet: the same asks were ridden on");
});

test("the share of a ride in the two-rein is noted, and says what comes next", async ({
  page,
}) => {
  await walkIn(page);
  await openTack(page, "Verbena");
  await expect(
    page.getByRole("list", { name: "Stages" }).locator("[aria-current]"),
  ).toContainText("Two-rein");
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
  // A horse on another road has no two-rein to note.
  await page.getByLabel("Horse", { exact: true }).click();
  await page.getByRole("option", { name: "Biscuit" }).click();
  await expect(
    page.getByRole("heading", { name: "Snaffle to leverage" }),
  ).toBeVisible();
  await expect(form).toBeHidden();
});

test("a first day in leverage: signed for, a fret, a tossed head, and the rest left for another day", async ({
  page,
}) => {
  await walkIn(page);
  const { horse_id } = await newBit(page, "First Shank", "Low port");
  await page.getByRole("button", { name: "Ride", exact: true }).click();
  await page.getByRole("button", { name: "Get on" }).waitFor();
  await page.goto(`/tack?view=horse&horse=${horse_id}`);
  const list = page.getByRole("region", { name: "First day in leverage" });
  await expect(list).toContainText("Not owned in the snaffle yet");
  await expect(list.getByRole("button", { name: "Passed" })).toHaveCount(0);
  await list.getByRole("button", { name: "Begin anyway" }).click();
  await list.getByLabel("Why, in writing").fill("Wore one for years");
  await list.getByRole("button", { name: "Sign" }).click();
  await expect(list).toContainText("Wore one for years");

  const next = list.locator("[aria-current=step]");
  const came = async (step, how) => {
    await expect(next).toContainText(step);
    await next.getByRole("button", { name: how }).click();
  };
  await came("Slip it in", "Passed");
  await came("Hang it", "Passed");
  await expect(next).toContainText("Set the strap");
  await next.getByLabel("Hole of the strap").fill("5");
  await next.getByLabel("Shank turned").fill("52");
  await next.getByRole("button", { name: "Wrinkled" }).click();
  await came("Set the strap", "Passed");
  await came("Stand and feel", "Passed");
  await came("Hand to the side", "Fretted");
  await expect(list).toContainText("It fretted: back to stand and feel");
  await came("Stand and feel", "Passed");
  await expect(next).toContainText("Hand to the side");
  await next.getByRole("button", { name: "Tossed its head" }).click();
  await expect(next.getByRole("button", { name: "Passed" })).toBeDisabled();
  await came("Hand to the side", "Fretted");
  await expect(list).toContainText("the strap's until shown otherwise");
  await came("Set the strap", "Another day");
  await expect(list).toContainText(
    "Enough for today. Set the strap waits for another day",
  );
  await expect(next).toHaveCount(0);
  await expect(list).toContainText(
    /Set the strap\s*left for another day \w{3}, \w{3} \d+/,
  );

  // The same list is at hand on Ride, and the bit is not put away while the ride wears it.
  const tack = await (
    await page.request.get(`/api/horses/${horse_id}/tack`)
  ).json();
  expect(tack.first_day.noted).toHaveLength(8);
  const ride = tack.first_day.noted[0].ride_id;
  await page.goto(`/ride/${ride}`);
  await page.getByRole("button", { name: "First day in leverage" }).click();
  await expect(
    page.getByRole("dialog", { name: "First day in leverage" }),
  ).toContainText("Enough for today");
});

test("a spoiled mouth steps down: one rein and two by turns, from the pads to the weeks", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Spoiled Mouth");
  const all = await (await page.request.get("/api/horses?limit=200")).json();
  const horse = all.items.find((h) => h.name === "Spoiled Mouth").id;
  const gear = crypto.randomUUID();
  for (const [method, path, body, status] of [
    [
      "PUT",
      `/api/curriculum/changes/${crypto.randomUUID()}`,
      {
        horse_id: horse,
        change: { kind: "school", school: "road", choice: "spoiled" },
      },
      201,
    ],
    [
      "PUT",
      `/api/horses/${horse}/gear/${gear}`,
      {
        kind: "bit",
        name: "Mild snaffle",
        mouthpiece: "snaffle",
        since: "2026-01-05",
        mouth_seen: "2026-01-05",
        teeth_seen: "2026-01-05",
      },
      201,
    ],
  ])
    expect((await send(page, method, path, body)).status()).toBe(status);
  await page.reload();
  await ride(page, "Spoiled Mouth");
  const id = rideIdOf(page);
  await page.getByRole("button", { name: "One rein or two" }).click();
  const test = page.getByRole("group", { name: "One rein or two" });
  for (let n = 0; n < 8; n++) {
    await expect(test).toContainText(`${n} ask`);
    const says = await test.getByRole("status").textContent();
    const braces = says.startsWith("Both");
    await test
      .getByRole("button", { name: braces ? "Head up" : "Gave, head low" })
      .click();
  }
  await expect(test).toContainText("8 asks");
  await test.getByRole("button", { name: /take back/ }).click();
  await expect(test).toContainText("7 asks");
  const events = async () =>
    (await (await page.request.get(`/api/rides/${id}/tack`)).json()).events;
  await expect.poll(async () => (await events()).length).toBe(7);

  await page.goto(`/tack?view=horse&horse=${horse}`);
  await expect(
    page.getByRole("heading", { name: "Step down with a spoiled mouth" }),
  ).toBeVisible();
  const down = page.getByRole("region", { name: "One rein and two" });
  await expect(down).toContainText("3 pairs");
  await expect(down).toContainText("not yet");
  await expect(down).toContainText("Never two reins straight back");

  // The demo's horse has months behind it: the difference shrinks.
  await openTack(page, "Saltlick");
  await expect(down).toContainText("The difference shrinks week by week.");
  await expect(
    page.getByRole("list", { name: "Stages" }).locator("[aria-current]"),
  ).toContainText(/to about/);
});

test("the tack on top of Ride changes with one tap, and a slip of a minute is put right", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Two Snaffles");
  const all = await (await page.request.get("/api/horses?limit=200")).json();
  const horse = all.items.find((h) => h.name === "Two Snaffles").id;
  for (const name of ["Smooth one", "Twisted one"]) {
    const body = {
      ...{ kind: "bit", name, mouthpiece: "snaffle", since: "2026-01-05" },
      ...{ mouth_seen: "2026-01-05", teeth_seen: "2026-01-05" },
    };
    const made = await send(
      page,
      "PUT",
      `/api/horses/${horse}/gear/${crypto.randomUUID()}`,
      body,
    );
    expect(made.status()).toBe(201);
  }
  await page.reload();
  await ride(page, "Two Snaffles");
  const tack = page.getByRole("group", { name: "Tack" });
  const smooth = tack.getByRole("button", { name: "Smooth one" });
  const twisted = tack.getByRole("button", { name: "Twisted one" });
  await twisted.click();
  await expect(twisted).toHaveAttribute("aria-pressed", "true");
  await smooth.click();
  await expect(smooth).toHaveAttribute("aria-pressed", "true");
  await expect(twisted).toHaveAttribute("aria-pressed", "false");
  const events = async () =>
    (await (await page.request.get(`/api/rides/${rideIdOf(page)}/tack`)).json())
      .events;
  await expect
    .poll(async () => (await events()).map((e) => [e.version, e.event.kind]))
    .toEqual([[2, "worn"]]);
});

test("an owner sees the wall of their own horses, and nothing to change", async ({
  page,
}) => {
  await walkIn(page, "Owner");
  await page.goto("/tack");
  await expect(page.getByRole("heading", { name: "Tack" })).toBeVisible();
  await expect(page.getByRole("button", { name: /^Measure/ })).toHaveCount(0);
  const view = page.getByRole("group", { name: "View" });
  await expect(view.getByRole("button", { name: "Bench" })).toHaveCount(0);
  await view.getByRole("button", { name: "Horse" }).click();
  await expect(page.getByRole("list", { name: "Stages" })).toBeVisible();
  await expect(page.getByRole("button", { name: /Passed|Save/ })).toHaveCount(
    0,
  );
});
