// The ride around the pads: plan, checks, coach, counts, close, hand-over, and the shorthand of the tack room.
import { expect, test } from "@playwright/test";
import {
  askByKeys,
  newHorse,
  openHorse,
  repsOnServer,
  ride,
  rideIdOf,
  send,
  walkIn,
  walkInByButton,
} from "./barn.mjs";

test.use({ serviceWorkers: "allow" });

const coach = (page) => page.getByRole("status", { name: "Coach" });

test("a ride is planned with its reasons; the trainer swaps, drops, adds and takes it back", async ({
  page,
}) => {
  await walkIn(page);
  await page.goto("/");
  await page.getByRole("link", { name: "Ride Dusk" }).click();
  await page.getByRole("button", { name: "Get on" }).click();
  const strip = page.getByRole("navigation", { name: "Plan of the ride" });
  await expect(strip).toContainText("Main");
  await page.keyboard.press("p");
  const sheet = page.getByRole("dialog", { name: "The ride of Dusk" });
  await expect(sheet).toContainText("Standard:");
  await expect(sheet).toContainText(/waits: /);
  const mains = sheet.getByRole("listitem").filter({ hasText: /^main,/ });
  const name = await mains.first().locator("b").first().textContent();
  await mains.first().getByRole("button", { name: /^Swap/ }).click();
  await sheet.getByLabel("Instead").click();
  await page
    .getByRole("option", { name: /Turn on the forehand|Set up and walk on/ })
    .first()
    .click();
  await expect(mains.first()).not.toContainText(name);
  await expect(
    sheet.getByRole("button", { name: "Undo changes" }),
  ).toBeVisible();
  const before = await sheet
    .getByRole("listitem")
    .filter({ hasText: /^loosen,/ })
    .count();
  await sheet.getByRole("button", { name: /^Drop/ }).first().click();
  await expect(
    sheet.getByRole("listitem").filter({ hasText: /^loosen,/ }),
  ).toHaveCount(before - 1);
  await sheet.getByRole("button", { name: "Undo changes" }).click();
  await expect(mains.first()).toContainText(name);
  await sheet.getByRole("button", { name: "Ride it" }).click();
  await expect(strip).toBeVisible();
});

test("a first day in a leverage bit keeps the pads away until it is answered or overruled in writing", async ({
  page,
  browser,
}) => {
  const helper = await (await browser.newContext()).newPage();
  await walkInByButton(helper, "Assistant");
  await helper.getByRole("link", { name: "Ride Old Copper" }).click();
  await expect(helper.getByRole("button", { name: "Get on" })).toBeDisabled();
  await expect(helper.getByRole("button", { name: "Ride anyway" })).toHaveCount(
    0,
  );
  await helper.context().close();

  await walkIn(page);
  await page.getByRole("link", { name: "Ride Old Copper" }).click();
  const mount = page.getByRole("button", { name: "Get on" });
  await expect(mount).toBeDisabled();
  await expect(page.getByRole("status")).toContainText(
    "first day in a leverage bit",
  );
  const curb = page.locator("[data-check=first-leverage]");
  await curb.getByRole("button", { name: "Not OK" }).click();
  await expect(mount).toBeDisabled();
  await curb.getByRole("button", { name: "Ride anyway" }).click();
  await page
    .getByLabel("Why, in writing")
    .fill("Strap set by the bit maker this morning");
  await page.getByRole("button", { name: "Sign" }).click();
  await expect(curb).toContainText(
    "Mara Quill rides anyway: Strap set by the bit maker",
  );
  const stop = page.locator("[data-check=one-rein-stop]");
  await stop.getByRole("button", { name: "Stops" }).first().click();
  await stop.getByRole("button", { name: "Stops" }).last().click();
  await expect(mount).toBeEnabled();
  await mount.click();
  await expect(
    page.getByRole("heading", { level: 1, name: "Old Copper" }),
  ).toBeVisible();
  const id = rideIdOf(page);
  await expect
    .poll(async () => {
      const plan = await (
        await page.request.get(`/api/rides/${id}/plan`)
      ).json();
      return plan.checks
        .find((c) => c.id === "one-rein-stop")
        .answers.map((a) => `${a.side} ${a.answer}`);
    })
    .toEqual(["left well", "right well"]);
});

test("a new bit needs the days on which mouth and teeth were seen", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "New Mouth");
  await page.getByRole("button", { name: "Add gear" }).click();
  const form = page.getByRole("dialog", { name: "A piece of gear" });
  await form.getByLabel("Name").fill("Smooth snaffle");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form).toContainText(
    "a bit needs the day on which the teeth were seen",
  );
  await expect(form.getByLabel("Name")).toHaveValue("Smooth snaffle");
  const today = (await (await page.request.get("/api/me")).json()).today;
  await form.getByLabel("Mouth looked into on").fill(today);
  await form.getByLabel("Teeth seen by vet or dentist on").fill(today);
  await form.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("region", { name: "Gear" })).toContainText(
    "Smooth snaffle bit, snaffle",
  );
  await page.getByRole("button", { name: "Ride", exact: true }).click();
  const worn = page
    .getByRole("group", { name: "Ridden in" })
    .getByRole("button", { name: "Smooth snaffle" });
  await worn.click();
  await expect(worn).toHaveAttribute("aria-pressed", "true");
  // What a ride wears is not put away under it.
  await openHorse(page, "New Mouth");
  await page
    .getByRole("region", { name: "Gear" })
    .getByRole("button", { name: /Smooth snaffle/ })
    .click();
  const piece = page.getByRole("dialog", { name: "Smooth snaffle" });
  await piece.getByRole("button", { name: "Put away" }).click();
  await expect(piece.getByRole("alert")).toContainText(
    "take it off there first",
  );
});

test("the coach stops an escalation, says when to quit, and the close sums the ride up", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Coached");
  await ride(page, "Coached");
  await page.getByLabel("Rung").selectOption("T2");
  for (const weight of ["orange", "fingers", "tug"])
    await askByKeys(page, { side: "both", outcome: "none", weight, ms: 200 });
  await expect(coach(page)).toHaveAttribute("data-coach", "stop-asking");
  await expect(coach(page)).toContainText(
    "orange, fingers, tug: stop adding, change the question",
  );
  for (const weight of ["lemon", "egg", "feather"])
    await askByKeys(page, { side: "both", outcome: "gave", weight, ms: 300 });
  await expect(coach(page)).toHaveAttribute("data-coach", "quit-here");
  await expect(coach(page)).toContainText("The best of 6: a feather");
  await page.keyboard.press("c");
  const close = page.getByRole("dialog", { name: "Close on Coached, 6 reps" });
  await expect(close).toContainText(
    /Best of the day stop at the walk: a feather, 0\.\d s/,
  );
  await expect(close).toContainText("Hold");
  await close.getByLabel("walk", { exact: true }).fill("25");
  await close.getByRole("button", { name: "Close the ride" }).click();
  await expect(page.locator("[data-call='T2']")).toContainText(
    "1 of 3 days so far",
  );
  const rides = await (
    await page.request.get(
      `/api/horses/${page.url().split("/horses/")[1]}/rides`,
    )
  ).json();
  expect(rides.items[0].minutes.walk).toBe(25);
});

test("a fault is answered there and then, with the rung to go to", async ({
  page,
}) => {
  await walkIn(page);
  // Seen from the barn first: what is known of her is what the answer goes by.
  await openHorse(page, "Juniper");
  await ride(page, "Juniper");
  await page.getByLabel("Rung").selectOption("T2");
  await page.keyboard.down(" ");
  await page.waitForTimeout(300);
  await page.keyboard.up(" ");
  await page.getByRole("button", { name: "head up", exact: true }).click();
  await page.keyboard.press("n");
  await page.keyboard.press("5");
  await expect(coach(page)).toContainText(
    /Head up: it is braced on a straight pull\. .+ first: /,
  );
  await coach(page).getByRole("button", { name: "Go there" }).click();
  await expect(page.getByLabel("Rung")).not.toHaveValue("T2");
  await page.getByRole("button", { name: "Undo" }).click();
});

test("a cured fault is told on the horse's page", async ({ page }) => {
  await walkIn(page);
  await newHorse(page, "Cured");
  const horse = page.url().split("/horses/")[1];
  const me = await (await page.request.get("/api/me")).json();
  const ago = (days) =>
    new Date(Date.parse(`${me.today}T00:00:00Z`) - days * 86_400_000)
      .toISOString()
      .slice(0, 10);
  // Heads up in the stop, then the bend three times, then the stop again.
  for (const [days, rung, side, faults] of [
    [13, "T2", "both", 4],
    [11, "T2", "both", 3],
    [9, "S2", "left", 0],
    [7, "S2", "left", 0],
    [5, "S2", "left", 0],
    [3, "T2", "both", 0],
  ]) {
    const [ride, set] = [crypto.randomUUID(), crypto.randomUUID()];
    await send(page, "PUT", `/api/rides/${ride}`, {
      horse_id: horse,
      rider_id: me.id,
      date: ago(days),
      place: "arena",
      entered: "pen",
    });
    for (let n = 0; n < 7; n++)
      await send(
        page,
        "PUT",
        `/api/rides/${ride}/reps/${crypto.randomUUID()}`,
        {
          set: { id: set, position: 0, rung, gait: "walk", side },
          position: n,
          outcome: n < faults ? "none" : "gave",
          weight: "feather",
          seconds: 1.2,
          faults: n < faults ? ["head-up"] : [],
        },
      );
  }
  await page.goto(`/horses/${horse}`);
  await expect(
    page.getByRole("list", { name: "What remedies did" }),
  ).toContainText(
    "After 3 rides of bend and walk: head up in 0 of 7 asks of stop at the walk, before in 7 of 14: it helped",
  );
});

test("what changes from ask to ask is told with its odds", async ({ page }) => {
  await walkIn(page);
  await newHorse(page, "Sooner");
  await ride(page, "Sooner");
  await page.getByLabel("Rung").selectOption("T2");
  for (const ms of [2800, 1500, 700, 250])
    await askByKeys(page, {
      side: "both",
      outcome: "gave",
      weight: "lemon",
      ms,
    });
  await expect(coach(page)).toContainText(
    /Sooner: [23]\.\d, 1\.\d, [01]\.\d, 0\.\d s, [789] in 10/,
  );
});

test("which rein hung on an ask of both is one tap, and is answered", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Hanger");
  await ride(page, "Hanger");
  await page.getByLabel("Rung").selectOption("S6");
  const hangs = (side) =>
    page.getByRole("button", { name: `${side} rein hangs` });
  await page.keyboard.down(" ");
  await page.waitForTimeout(300);
  await page.keyboard.up(" ");
  await hangs("right").click();
  await hangs("left").click();
  await expect(hangs("right")).toHaveAttribute("aria-pressed", "false");
  await page.keyboard.press("g");
  await page.keyboard.press("3");
  await expect
    .poll(async () =>
      (await repsOnServer(page, rideIdOf(page))).map((r) => r.faults),
    )
    .toEqual([["hangs-left"]]);
  await expect(coach(page)).toContainText("Left rein hangs");
  // On one rein there is nothing to choose.
  await page.getByLabel("Rung").selectOption("S1");
  await page.keyboard.down("f");
  await page.waitForTimeout(300);
  await page.keyboard.up("f");
  await expect(page.getByRole("group", { name: "Faults" })).toBeVisible();
  await expect(hangs("left")).toHaveCount(0);
});

test("a ride is handed over half way, and a set can be given to who rode it", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Handed Over");
  await ride(page, "Handed Over");
  await askByKeys(page, {
    side: "left",
    outcome: "gave",
    weight: "egg",
    ms: 200,
  });
  await page.keyboard.press("h");
  const sheet = page.getByRole("dialog", { name: "Who rides from here" });
  await sheet.getByRole("button", { name: "Dell Okafor" }).click();
  await expect(sheet).toBeHidden();
  await askByKeys(page, {
    side: "left",
    outcome: "tried",
    weight: "orange",
    ms: 200,
  });
  await expect(page.getByText("2 reps, all sent")).toBeVisible();
  const told = await (
    await page.request.get(`/api/rides/${rideIdOf(page)}`)
  ).json();
  expect(told.sets.map((s) => [s.rider_id === null, s.reps.length])).toEqual([
    [true, 1],
    [false, 1],
  ]);
  const back = await send(page, "PUT", `/api/sets/${told.sets[1].id}/rider`, {
    rider_id: told.rider_id,
  });
  expect(back.status()).toBe(204);
});

test("ten rides of ten horses go in with one paste of shorthand, and rows as CSV", async ({
  page,
}) => {
  await walkIn(page);
  const horses = (
    await (await page.request.get("/api/horses?limit=200")).json()
  ).items.slice(0, 10);
  const before = async (id) =>
    (await (await page.request.get(`/api/horses/${id}/rides?limit=200`)).json())
      .items.length;
  const counts = await Promise.all(horses.map((h) => before(h.id)));
  await page.keyboard.press("s");
  await expect(
    page.getByRole("heading", { name: "Log in shorthand" }),
  ).toBeVisible();
  const text = horses
    .map(
      (h, n) =>
        `${h.name}: flex L ${n % 5}+1/8 egg 1.5s, R 4/8 orange leans · jog stop 5/7 lemon "note ${n}"`,
    )
    .join("\n");
  await page.getByLabel("The text").fill(text.replace("egg", "egggs"));
  const wrong = page.getByRole("list", { name: "Not understood" });
  await expect(wrong).toContainText('"egggs" means nothing here');
  await expect(page.getByRole("button", { name: /^Save/ })).toBeDisabled();
  await wrong.getByRole("button", { name: "Use “egg”" }).click();
  await expect(wrong).toBeHidden();
  await expect(page.getByRole("group", { name: "Word by word" })).toContainText(
    "S1 Flexion",
  );
  await page.getByRole("button", { name: "Save 10 rides, 30 sets" }).click();
  await expect(page.getByText("Saved: 10 rides.")).toBeVisible();
  const after = await Promise.all(horses.map((h) => before(h.id)));
  expect(after).toEqual(counts.map((n) => n + 1));

  await page.getByRole("button", { name: "Rows (CSV)" }).click();
  await page
    .getByLabel("The text")
    .fill(
      `date,horse,rung,side,gave,none,weight\n2026-01-05,${horses[0].name},S1,L,6,2,egg\n2026-13-05,${horses[0].name},S1,L,6,2,egg`,
    );
  await expect(wrong).toContainText("Line 3");
  await expect(page.getByRole("button", { name: /^Save/ })).toBeDisabled();
});

test("what is entered afterwards or in shorthand fills the ride that was planned", async ({
  page,
}) => {
  await walkIn(page);
  const me = await (await page.request.get("/api/me")).json();
  const dell = (
    await (await page.request.get("/api/people?limit=50")).json()
  ).items.find((p) => p.name.startsWith("Dell"));
  for (const name of ["Filler", "Filled in words"]) {
    await newHorse(page, name);
    const horse = page.url().split("/horses/")[1];
    await send(page, "PUT", `/api/rides/${crypto.randomUUID()}`, {
      horse_id: horse,
      rider_id: dell.id,
      date: me.today,
      starts_at: "06:15:00",
      place: "round-pen",
      entered: "pen",
    });
    if (name === "Filler") {
      await page.goto(`/horses/${horse}/afterwards`);
      await expect(page.getByLabel("This was")).toContainText(
        `planned for 06:15 with ${dell.name}`,
      );
      await page.getByLabel("gave, set 1").fill("6");
      await page.getByRole("button", { name: "Save the ride" }).click();
    } else {
      await page.goto("/shorthand");
      await page.getByLabel("The text").fill(`${name}: flex L 6/8`);
      await expect(
        page.getByText(`Fills the ride planned for 06:15 with ${dell.name}.`),
      ).toBeVisible();
      await page.getByRole("button", { name: /^Save/ }).click();
      await expect(page.getByText("Saved: 1 ride.")).toBeVisible();
      await page.goto(`/horses/${horse}`);
    }
    const rides = page.getByRole("region", { name: "Rides" });
    await expect(rides).toContainText(`${dell.name}, round pen`);
    const planned = `/api/horses/${horse}/planned?date=${me.today}`;
    expect((await (await page.request.get(planned)).json()).items).toEqual([]);
    const all = await page.request.get(`/api/horses/${horse}/rides?limit=8`);
    expect((await all.json()).items).toHaveLength(1);
  }
});

test("the barn's own word is kept and read", async ({ page }) => {
  await walkIn(page);
  await page.goto("/shorthand");
  await page.getByLabel("A word").fill("noodle");
  await page.getByLabel("Its rung").selectOption("S2");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(
    page.getByRole("region", { name: "Words of this barn" }),
  ).toContainText("noodle is Bend and walk");
  await page.getByLabel("The text").fill("Juniper: noodle L 6/8");
  await expect(
    page.getByText("Bend and walk, left: 6 of 8, a lemon"),
  ).toBeVisible();
});

test("heat is typed in, and shortens the plan", async ({ page }) => {
  await walkIn(page);
  await page.getByRole("button", { name: "Enter the weather" }).click();
  await page.getByLabel("°F").fill("84");
  await page.getByLabel("Humidity %").fill("900");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("it is from 0 to 100")).toBeVisible();
  await page.getByLabel("Humidity %").fill("78");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("84 °F, 78% humidity: care")).toBeVisible();
  await openHorse(page, "Gravel");
  // Its planned ride may have been filled by the paste above.
  await page
    .getByRole("button", { name: "Ride", exact: true })
    .or(page.getByRole("link", { name: "Ride", exact: true }))
    .click();
  await page.getByRole("button", { name: "Get on" }).click();
  await page.keyboard.press("p");
  await expect(page.getByRole("dialog")).toContainText(
    "two thirds of the reps",
  );
  // As it was: other tests ride in cool air.
  await send(page, "PUT", "/api/weather", {
    degrees: 12,
    scale: "celsius",
    humidity: 50,
  });
});
