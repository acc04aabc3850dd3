// Rungs that are counted in something else than asks: each measure by thumb and by keys, with a fault, undone, corrected, seen by
// coach, plan, call, forecast and trace, entered afterwards and in shorthand.
import { expect, test } from "@playwright/test";
import { newHorse, ride, rideIdOf, send, walkIn } from "./barn.mjs";

const pads = (page, side) => page.getByRole("group", { name: `Count ${side}` });
const tap = (page, side, name) =>
  pads(page, side)
    .getByRole("button", { name: new RegExp(`${name}( .)?$`) })
    .click();
const press = async (page, ...keys) => {
  for (const key of keys) await page.keyboard.press(key);
};

/** By measure: what is tapped and what is pressed, what each comes to, and the same in fields and in shorthand. */
const MEASURES = [
  {
    name: "laps",
    step: "R2@walk",
    side: "left",
    thumb: async (page) => {
      await tap(page, "left", "Another lap");
      await tap(page, "left", "Soft now");
    },
    came: "2 laps",
    keys: ["f", "ArrowUp", "ArrowUp", "ArrowDown", "n"],
    pressed: "2 laps, stiff",
    field: "laps",
    now: "4 laps",
    says: "soft after 4 laps",
    standard: "soft within 2 laps",
    text: "R2 walk L 3 laps stiff",
    read: "still stiff after 3 laps",
  },
  {
    name: "nose-ups",
    step: "S7@walk",
    side: "right",
    thumb: async (page) => {
      await tap(page, "right", "Nose up");
      await tap(page, "right", "Circle done");
    },
    came: "1 up",
    keys: ["j", "g"],
    pressed: "0 ups",
    field: "nose-ups",
    now: "4 ups",
    says: "4 nose-ups in 1 circle",
    standard: "8 of 10 circles without a nose-up",
    text: "S7 walk R 1/4",
    read: "1 nose-up in 4 circles",
  },
  {
    name: "set-ups",
    step: "L1",
    side: "left",
    thumb: (page) => tap(page, "left", "Stood to it, walked on"),
    came: "waited",
    keys: ["f", "n"],
    pressed: "went",
    field: "set-ups",
    now: "1 of 4",
    says: "accepted 1 of 4 set-ups",
    standard: "8 of 10 set-ups accepted",
    text: "L1 walk L 6/8",
    read: "accepted 6 of 8 set-ups",
  },
  {
    name: "tries",
    step: "O2",
    side: "both",
    thumb: (page) => tap(page, "both", "Two feet"),
    came: "two feet",
    keys: ["7"],
    pressed: "crosses",
    stage: "stands",
    now: "stands",
    says: "stands on it",
    standard: "across within 3 tries",
    text: "O2 walk looks>two>crosses",
    read: "looks, two feet on, crosses",
  },
  {
    name: "share of rein",
    step: "B22@walk",
    school: { school: "road", choice: "bridle" },
    side: "both",
    thumb: async (page) => {
      await tap(page, "both", "roots");
      await tap(page, "both", "Soft at it");
    },
    came: "10%",
    keys: ["+", "n"],
    pressed: "15%, stiff",
    field: "% bridle rein",
    now: "4%",
    says: "soft at 4% on the bridle rein",
    standard: "10% or more on the bridle rein",
    text: "B22 walk 30% stiff",
    read: "stiff at 30% on the bridle rein",
  },
  {
    name: "mounts",
    step: "G6",
    side: "left",
    thumb: (page) => tap(page, "left", "Up and down, stood loose"),
    came: "loose",
    keys: ["f", "n"],
    pressed: "tight",
    field: "mounts",
    now: "1 of 4",
    says: "stood loose for 1 of 4 mounts",
    standard: "100 of them",
    text: "G6 stand L 10/12",
    read: "stood loose for 10 of 12 mounts",
  },
  {
    name: "seconds held",
    step: "S8@walk",
    side: "both",
    thumb: async (page) => {
      await tap(page, "both", "Off the hand now");
      await expect(pads(page, "both")).toContainText("1 of 10 s");
      await tap(page, "both", "Let go of it, still soft");
    },
    came: /^[12] s$/,
    keys: ["ArrowUp", "n"],
    pressed: "0 s, lost",
    field: "seconds held",
    now: "4 s",
    says: "held 4 s",
    standard: "off the hand for 10 s",
    text: "S8 walk 8s stiff",
    read: "held 8 s, then lost it",
  },
  {
    name: "steps",
    step: "T1",
    side: "both",
    thumb: async (page) => {
      for (let n = 0; n < 3; n += 1) await tap(page, "both", "A good step");
      await tap(page, "both", "Let it stand");
    },
    came: "3 steps",
    keys: ["ArrowUp", "n"],
    pressed: "1 step, wrong",
    field: "steps",
    now: "4 steps",
    says: "4 steps",
    standard: "10 steps on end",
    text: "T1 walk 7 steps stiff",
    read: "7 steps, then lost it",
  },
];

for (const m of MEASURES) {
  test(`${m.name}: logged, undone, corrected and seen everywhere`, async ({
    page,
  }) => {
    const horse = `Counts ${m.name}`;
    await walkIn(page);
    await newHorse(page, horse);
    const horseId = page.url().split("/horses/")[1];
    if (m.school) {
      const change = { kind: "school", ...m.school };
      const path = `/api/curriculum/changes/${crypto.randomUUID()}`;
      await send(page, "PUT", path, { horse_id: horseId, change });
      await page.reload();
    }
    await ride(page, horse);
    const id = rideIdOf(page);
    await send(page, "PUT", `/api/rides/${id}/plan/${crypto.randomUUID()}`, {
      edit: "add",
      step: m.step,
    });
    await page.reload();
    const strip = page.getByRole("navigation", { name: "Plan of the ride" });
    const part = strip.getByRole("button").filter({ hasText: /0\/\d/ }).last();
    await part.click();
    await expect(pads(page, m.side)).toBeVisible();
    await expect(page.getByText(m.standard).first()).toBeVisible();

    // By thumb, with a fault: it belongs to this count and is up again after it.
    const row = page.getByRole("group", { name: `Reps ${m.side}` });
    const fault = page
      .getByRole("group", { name: "Faults" })
      .getByRole("button")
      .first();
    const called = (await fault.textContent()).toLowerCase();
    await fault.click();
    await expect(fault).toHaveAttribute("aria-pressed", "true");
    await m.thumb(page);
    await expect(row.locator("span[title]")).toHaveText([m.came]);
    await expect(fault).toHaveAttribute("aria-pressed", "false");
    const coach = page.getByRole("status", { name: "Coach" });
    await expect(coach).toHaveAttribute("data-coach", /./);
    await expect(coach).toContainText(/[A-Z]/);
    await expect(strip.locator("[aria-current]")).toContainText(/1\/\d/);

    // By keys, and undone.
    await press(page, ...m.keys);
    await expect(row.locator("span[title]")).toHaveText([m.pressed, m.came]);
    await press(page, "u");
    await expect(row.locator("span[title]")).toHaveText([m.came]);

    // Put right.
    await row.getByRole("button").click();
    const fix = page.getByRole("group", { name: "Put this count right" });
    if (m.stage)
      await fix.getByLabel("Try 1, this count").selectOption(m.stage);
    else await fix.getByLabel(`${m.field}, this count`).fill("4");
    await fix.getByRole("button", { name: "Save" }).click();
    await expect(row.locator("span[title]")).toHaveText([m.now]);
    const logged = async () => {
      const told = await (await page.request.get(`/api/rides/${id}`)).json();
      return told.sets.map((s) => [s.counted.says, s.counted.faults.length]);
    };
    await expect.poll(logged).toEqual([[m.says, 1]]);

    // Call, forecast and trace.
    await page.goto(`/horses/${horseId}`);
    const standing = await (
      await page.request.get(`/api/horses/${horseId}/standing`)
    ).json();
    const step = standing.steps.find((s) => s.id === m.step);
    expect(step.call).toBe("hold");
    expect(step.forecast.by_week.length).toBeGreaterThan(4);
    const words = `${m.says}, ${called}`;
    const onPage = page.getByRole("button", { name: `Correct: ${words}` });
    await expect(onPage).toBeVisible();
    const trace = page.getByRole("region", { name: "Corrections" });
    await expect(trace.getByRole("listitem")).toHaveCount(2);
    await expect(trace).toContainText("→ removed");
    await expect(trace).toContainText(`→ ${words}`);

    // Corrected on the horse's page too.
    await onPage.click();
    const dialog = page.getByRole("dialog");
    await expect(dialog).toContainText(`It says: ${m.says}.`);
    await dialog.getByRole("button", { name: "Take it out" }).click();
    await expect(trace.getByRole("listitem")).toHaveCount(3);

    // Entered afterwards.
    await page.goto(`/horses/${horseId}/afterwards`);
    await page.getByLabel("Rung and gait, set 1").selectOption(m.step);
    await page.getByLabel("Side, set 1").selectOption(m.side);
    if (m.stage) await page.getByLabel("Try 1, set 1").selectOption(m.stage);
    else {
      const pair = {
        "nose-ups": "circles",
        "set-ups": "accepted",
        mounts: "stood loose",
      }[m.field];
      await page.getByLabel(`${m.field}, set 1`).fill("4");
      if (pair) await page.getByLabel(`${pair}, set 1`).fill("1");
    }
    await page.getByRole("button", { name: "Save the ride" }).click();
    await expect(page.getByText(m.says, { exact: true })).toBeVisible();

    // In shorthand.
    await page.goto("/shorthand");
    await page.getByLabel("The text").fill(`${horse}: ${m.text}`);
    await expect(page.getByText(`: ${m.read}`)).toBeVisible();
    await page.getByRole("button", { name: /^Save/ }).click();
    await expect(page.getByText("Saved: 1 ride.")).toBeVisible();
    await page.goto(`/horses/${horseId}`);
    await expect(page.getByText(m.read, { exact: true })).toBeVisible();
  });
}

test("a half-counted set is kept when the page is closed", async ({ page }) => {
  await walkIn(page);
  await newHorse(page, "Half counted");
  await ride(page, "Half counted");
  await page.getByLabel("Rung").selectOption("R2");
  await tap(page, "left", "Another lap");
  await page.reload();
  await page.getByLabel("Rung").selectOption("R2");
  await expect(pads(page, "left")).toContainText("lap 2");
  await expect(pads(page, "right")).toContainText("lap 1");
});
