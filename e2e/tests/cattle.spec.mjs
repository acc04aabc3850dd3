// A cattle day: the herd, the draw changed by hand, and turns logged from the saddle on two phones that lose the signal.
import { expect, test } from "@playwright/test";
import { getOn, send, walkIn } from "./barn.mjs";
import { bring } from "./no-signal.mjs";

const phone = {
  serviceWorkers: "allow",
  hasTouch: true,
  viewport: { width: 390, height: 844 },
};

const drawn = async (page) =>
  (await page.request.get("/api/cattle-draw")).json();

/** The pads for turns on cattle of an open ride. */
async function onCattle(page) {
  await page.getByLabel("Rung").selectOption("C7");
  await page.getByRole("button", { name: "Turns on cattle" }).tap();
  return page.getByRole("group", { name: "On cattle" });
}

/** Takes a cow that is drawn for this horse. */
async function takeCow(page, pads, n) {
  await pads
    .getByRole("button")
    .filter({ hasText: n === 0 ? "Pick a cow" : /slow|honest/ })
    .first()
    .tap();
  await page.getByRole("button", { name: /drawn/ }).first().tap();
}

async function logged(page, ride) {
  const told = await (
    await page.request.get(`/api/rides/${ride}/cattle`)
  ).json();
  return told.events.map(({ event }) =>
    event.kind === "turn"
      ? `${event.way} ${event.position} ${event.stopped} ${event.speed}`
      : event.kind,
  );
}

test("a cow is added by its tag, turns out lame, and leaves the herd", async ({
  page,
}) => {
  await walkIn(page);
  await page.goto("/cattle");
  await page.getByRole("button", { name: "Add a cow" }).click();
  const form = page.getByRole("dialog");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form).toContainText("this cannot be empty");
  await form.getByLabel("Tag").fill("12");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form).toContainText("another cow that is here has this tag");
  await form.getByLabel("Tag").fill("77");
  await form.getByRole("button", { name: "Save" }).click();
  const row = page.getByRole("button", { name: /^77/ });
  await expect(row).toContainText("3 left");
  await row.click();
  await form.getByLabel("Today it is").click();
  await page.getByRole("option", { name: "Lame" }).click();
  await form.getByRole("button", { name: "Save" }).click();
  await expect(row).toContainText("lame: leave it, and have it seen");
  await row.click();
  await form.getByRole("button", { name: "Left today" }).click();
  await expect(row).toHaveCount(0);
  await page.getByRole("button", { name: "Limits" }).click();
  await form.getByLabel("Works of a cow in a week").fill("2");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form).toContainText("as many works as in a day at least");
});

test("a cattle day goes from the draw to the last work on two phones, with the signal lost half way", async ({
  browser,
}) => {
  const trainer = await browser.newContext(phone);
  const helper = await browser.newContext(phone);
  const [page, other] = [await trainer.newPage(), await helper.newPage()];
  await walkIn(page);
  await walkIn(other, "Assistant");
  const first = await drawn(page);
  const [one, two] = first.horses.map((h) =>
    first.goes.find((go) => go.horse_id === h.horse_id),
  );

  // Another cow by hand: told what it costs, and taken back.
  await page.goto("/cattle?view=draw");
  const lead = page.getByRole("region", { name: one.horse });
  await lead.getByRole("combobox").first().click();
  const free = page.getByRole("option", { disabled: false, selected: false });
  const unused = await free.evaluateAll(
    (all, used) =>
      all.findIndex(
        (o) =>
          /: slow$/.test(o.textContent) &&
          !used.includes(o.textContent.split(":")[0]),
      ),
    first.goes.map((go) => go.tag),
  );
  await free.nth(unused).click();
  await expect(page.getByRole("main")).toContainText("Changed by hand.");
  await page.getByRole("button", { name: "Draw again" }).click();
  await expect(page.getByRole("main")).toContainText("The best that was found");

  // A drawn cow goes lame: the rest is drawn anew without it.
  const herd = (await (await page.request.get("/api/cattle")).json()).items;
  const lame = herd.find((cow) => cow.id === one.cow_id);
  const { tag, looks, manner, source, came_on, note, version } = lame;
  const fields = { tag, looks, manner, source, came_on, note };
  const path = `/api/cattle/${lame.id}`;
  expect(
    (
      await send(page, "PUT", path, { ...fields, version, health: "lame" })
    ).ok(),
  ).toBe(true);
  const second = await drawn(page);
  expect(second.goes.map((go) => go.cow_id)).not.toContain(lame.id);
  expect(second.goes.length).toBe(first.goes.length);

  for (const [p, go] of [
    [page, one],
    [other, two],
  ]) {
    await p.goto(`/ride/${go.ride_id}`);
    await getOn(p);
    const pads = await onCattle(p);
    await takeCow(p, pads, 0);
    await pads.getByRole("button", { name: "Turned left, at the leg" }).tap();
    await pads.getByRole("button", { name: "Turned right, at the pad" }).tap();
    await pads.getByRole("button", { name: "Past", exact: true }).tap();
    await expect
      .poll(() => logged(p, go.ride_id))
      .toEqual(["work", "left leg even slow", "right pad past slow"]);
  }
  await bring(page, one.ride_id, [`/api/rides/${one.ride_id}/cattle`]);
  await bring(other, two.ride_id, [`/api/rides/${two.ride_id}/cattle`]);
  await trainer.setOffline(true);
  await helper.setOffline(true);
  for (const [p, go, twice] of [
    [page, one, true],
    [other, two, false],
  ]) {
    await p.goto(`/ride/${go.ride_id}`);
    const pads = await onCattle(p);
    await pads.getByRole("button", { name: "Turned right, at the leg" }).tap();
    if (twice)
      await pads.getByRole("button", { name: "Past", exact: true }).tap();
    await pads.getByRole("button", { name: "Lively" }).tap();
    await pads.getByRole("button", { name: "It ran through us" }).tap();
    await pads.getByRole("button", { name: "Undo" }).tap();
    await expect(pads).toContainText("3 turns right");
    // Closed and opened again, still without a network: nothing is gone.
    await p.reload();
    await expect(await onCattle(p)).toContainText("3 turns right");
  }
  await trainer.setOffline(false);
  await helper.setOffline(false);
  for (const [p, go, last] of [
    [page, one, "right leg past lively"],
    [other, two, "right leg even lively"],
  ])
    await expect
      .poll(() => logged(p, go.ride_id), { timeout: 60_000 })
      .toEqual(["work", "left leg even slow", "right pad past slow", last]);
  // Past twice the same way: the herd is left. And both are done with the day's draw.
  await expect(page.getByRole("group", { name: "On cattle" })).toContainText(
    "Leave the cattle. It went past twice to the right",
  );
  await page
    .getByRole("group", { name: "On cattle" })
    .getByRole("button", { name: "Leave the herd" })
    .tap();
  await expect.poll(async () => (await drawn(other)).goes).toEqual([]);
  await trainer.close();
  await helper.close();
});

test("a work on the flag goes by programme and by remote, and stops by itself when the link is cut", async ({
  page,
  context,
}) => {
  test.setTimeout(240_000);
  await walkIn(page);
  await page.goto("/cattle?view=flag");
  await page.getByRole("combobox", { name: "Horse" }).click();
  await page.getByRole("option", { name: "Lantern" }).click();
  const says = page.getByRole("region", { name: "The line" });
  await expect(says).toContainText("The flag stands.");
  const line = page.getByRole("img", { name: /^The flag is/ });
  const feet = async () => {
    const [, n, side] = /is ([\d.]+) ft (left|right)/.exec(
      await line.getAttribute("aria-label"),
    );
    return side === "left" ? -Number(n) : Number(n);
  };

  // By hand: it goes for as long as the pad is held.
  const right = page.getByRole("button", { name: "Hold: the flag goes right" });
  await right.hover();
  await page.mouse.down();
  await expect.poll(feet).toBeGreaterThan(4);
  await page.mouse.up();
  // On a machine that stalls, the flag may have heard nothing for too long while the pad was held.
  await expect(says).toContainText(/The flag stands\.|stopped by itself/);

  // Held when the link goes: it stopped by itself, and does not go on when the signal is back.
  await right.hover();
  await page.mouse.down();
  await expect(says).toContainText("The flag goes.");
  await context.setOffline(true);
  await expect(says).toContainText("No link to the flag: it stops by itself.");
  await page.waitForTimeout(2_500);
  await page.mouse.up();
  await context.setOffline(false);
  await expect(says).toContainText("stopped by itself");
  const stood = await feet();
  await page.waitForTimeout(1_000);
  expect(await feet()).toBe(stood);

  // An emergency stop holds until it is let go.
  const left = page.getByRole("button", { name: "Hold: the flag goes left" });
  await left.hover();
  await page.mouse.down();
  await expect(says).toContainText("The flag goes.");
  await page.keyboard.press("x");
  await page.mouse.up();
  await expect(says).toContainText("takes no order until it is let go");
  await expect(left).toBeDisabled();
  await page.getByRole("button", { name: "Let it go again" }).click();

  // By programme: it goes somewhere, waits, and goes on; a stop is logged in a tap.
  const start = page.getByRole("button", { name: "Start the programme" });
  const programme = page.getByRole("region", { name: /^Work \d of Lantern/ });
  // On a machine that stalls, the flag may hear nothing for too long and stop by itself: then it is started again.
  const goesOnUntil = (told) =>
    expect
      .poll(
        async () => {
          if (await start.isVisible()) await start.click();
          return await programme.textContent();
        },
        { timeout: 60_000 },
      )
      .toContain(told);
  await goesOnUntil("1 of 8.");
  await goesOnUntil("It waits");
  const pads = page.getByRole("group", { name: "The last stop" });
  await pads.getByRole("button", { name: "Guessed" }).click();
  await pads.getByRole("button", { name: "2 past" }).click();
  await expect(pads).toContainText("1 stop logged.");
  await goesOnUntil("2 of 8.");
  await page.getByRole("button", { name: "Stop the programme" }).click();
  await expect(says).toContainText("The flag stands.");
  await expect(
    page.getByRole("region", { name: "Past and short by end" }),
  ).toContainText(/guess/);
  const id = new URL(page.url()).searchParams.get("ride");
  expect(await logged(page, id)).toEqual(["flag"]);
});

test("the practice pen is ridden by keys, and a horse that stands loses its cow", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await walkIn(page);
  await page.goto("/cattle?view=practice");
  await page.getByRole("button", { name: "Begin (N)" }).click();
  const pen = page.getByRole("region", { name: "The pen" });
  const drawing = pen.getByRole("img");
  const seen = async () =>
    (await drawing.getAttribute("aria-label")).match(/\d+/g).map(Number);
  const [, , before] = await seen();
  // Nothing but the arrows: to the right by more than the pen is wide would be.
  for (let n = 0; n < 8; n++) await page.keyboard.press("ArrowRight");
  await expect.poll(async () => (await seen())[2]).toBeGreaterThan(before + 10);
  await expect(pen).toContainText(/Held \d+ % of \d+ s/);
  // Left in the corner, it lets the cow by.
  for (let n = 0; n < 20; n++) await page.keyboard.press("ArrowRight");
  await expect(pen).toContainText("The cow is back with the herd.", {
    timeout: 60_000,
  });
  // With the keys alone, another one.
  await page.keyboard.press("n");
  await expect(pen).not.toContainText("The cow is back with the herd.");
  await page.getByRole("button", { name: "Pause" }).click();
  const stood = await seen();
  await page.waitForTimeout(1_000);
  expect(await seen()).toEqual(stood);
});
