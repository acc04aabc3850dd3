import { expect } from "@playwright/test";

/** Walks in as one of the demo's people, without the page for it. */
export async function walkIn(page, who = "Trainer") {
  const data = { role: who.toLowerCase() };
  expect((await page.request.post("/api/demo-sign-in", { data })).ok()).toBe(
    true,
  );
  await page.goto("/");
  await expect(page.getByRole("navigation", { name: "Pages" })).toBeVisible();
}

/** Walks in by the button on the page. */
export async function walkInByButton(page, who) {
  await page.goto("/");
  await page.getByRole("button", { name: who }).click();
  await expect(page.getByRole("navigation", { name: "Pages" })).toBeVisible();
}

/** Adds a horse and opens it. One of that name from a try before this is archived. */
export async function newHorse(page, name) {
  await archive(page, name);
  const id = crypto.randomUUID();
  const made = await send(page, "PUT", `/api/horses/${id}`, { name });
  expect(made.status()).toBe(201);
  await page.goto(`/horses/${id}`);
  await expect(page.getByRole("heading", { level: 1, name })).toBeVisible();
}

/** Adds a horse on the Barn page and opens it from the list. */
export async function newHorseByHand(page, name) {
  await archive(page, name);
  await page.goto("/barn");
  await page.getByRole("button", { name: "Add a horse" }).click();
  await page.getByLabel("Name", { exact: true }).fill(name);
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("dialog")).toBeHidden();
  await openHorse(page, name);
}

async function archive(page, name) {
  const all = await (await page.request.get("/api/horses?limit=200")).json();
  for (const { id, version } of all.items.filter((h) => h.name === name))
    await send(page, "PUT", `/api/horses/${id}`, {
      version,
      name: `${name} before`,
      archived: true,
    });
}

export async function openHorse(page, name) {
  await page.goto("/horses");
  await page
    .getByRole("main")
    .getByRole("link", { name: new RegExp(`^${name}`) })
    .click();
  await expect(page.getByRole("heading", { level: 1, name })).toBeVisible();
}

/** Opens today's ride of the horse whose page is open. */
export async function ride(page, name) {
  await page
    .getByRole("button", { name: "Ride", exact: true })
    .or(page.getByRole("link", { name: "Ride", exact: true }))
    .click();
  await getOn(page);
  await expect(
    page.getByRole("button", { name: /rein.*: hold from ask to give/ }).first(),
  ).toBeVisible();
  await expect(page.getByRole("heading", { level: 1, name })).toBeVisible();
}

/** Past the checks before mounting, where nothing keeps the ride waiting. */
export async function getOn(page) {
  await page.getByRole("button", { name: "Get on" }).click();
}

/** Gets on where the checks are still to be done: they are not where something was logged, or someone got on from here before. */
export async function getOnIfAsked(page, pads) {
  const on = page.getByRole("button", { name: "Get on" });
  await on.or(pads).first().waitFor();
  if (await on.isVisible()) await getOn(page);
  await pads.waitFor();
}

/** Sends a request as the page would, with the session's token. */
export async function send(page, method, path, data) {
  const me = await (await page.request.get("/api/me")).json();
  return page.request.fetch(path, {
    method,
    headers: { "x-csrf-token": me.csrf },
    data,
  });
}

/** Id of the ride whose page is open. */
export const rideIdOf = (page) => page.url().split("/ride/")[1];

/** The reps of a ride that are not taken out, as the server has them. */
export async function repsOnServer(page, rideId) {
  const ride = await (await page.request.get(`/api/rides/${rideId}`)).json();
  return ride.sets.flatMap((s) => s.reps);
}

/** One ask with the keys alone. */
export async function askByKeys(page, { side, ms = 400, outcome, weight }) {
  const key = { left: "f", right: "j", both: " " }[side];
  await page.keyboard.down(key);
  await page.waitForTimeout(ms);
  await page.keyboard.up(key);
  await page.keyboard.press({ gave: "g", tried: "t", none: "n" }[outcome]);
  await page.keyboard.press(String(1 + WEIGHTS.indexOf(weight)));
}

export const WEIGHTS = [
  "none",
  "feather",
  "egg",
  "lemon",
  "orange",
  "fingers",
  "hand",
  "tug",
];
export const OUTCOMES = {
  gave: "Gave both",
  tried: "Only: bends",
  none: "None",
};
export const padOf = (page, side) =>
  page.getByRole("button", {
    name: `${{ left: "Left rein", right: "Right rein", both: "Both reins" }[side]}: hold`,
  });

export const tellOutcome = (page, outcome) =>
  page
    .getByRole("group", { name: "What it came to" })
    .getByRole("button", { name: OUTCOMES[outcome] });
export const tellWeight = (page, weight) =>
  page
    .getByRole("group", { name: "What it came to" })
    .getByRole("button", { name: new RegExp(`^${weight}( \\d)?$`) });
