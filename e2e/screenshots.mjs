// Takes the pictures of docs/screenshots from a running demo:  BASE=http://127.0.0.1:8020 node screenshots.mjs [names]
import { chromium } from "@playwright/test";
import { mkdirSync } from "node:fs";

const base = process.env.BASE ?? "http://127.0.0.1:8020";
const out =
  process.env.OUT ?? new URL("../docs/screenshots/", import.meta.url).pathname;
const only = process.argv.slice(2);
const desk = { width: 1280, height: 800 };
const phone = { width: 390, height: 844 };

const horse = (name) => async (page) => {
  await page.goto(`${base}/horses`);
  await page.getByRole("main").getByRole("link", { name }).click();
  await page.getByRole("heading", { name: "The call" }).waitFor();
  await page.locator("figure svg").first().waitFor();
};

async function toRide(page, name) {
  await page.goto(base);
  await page.getByRole("link", { name: `Ride ${name}` }).click();
}

async function ride(page, name) {
  await toRide(page, name);
  const mount = page.getByRole("button", { name: "Get on" });
  await mount
    .or(page.getByRole("group", { name: "Reps left" }))
    .first()
    .waitFor();
  if (await mount.isVisible()) await mount.click();
  await page.getByRole("heading", { name, exact: true }).waitFor();
}

/** Asks with the keys and tells what it came to. */
async function ask(page, key, ms, outcome, weight) {
  await page.keyboard.down(key);
  await page.waitForTimeout(ms);
  await page.keyboard.up(key);
  await page.keyboard.press(outcome);
  await page.keyboard.press(weight);
}

const inTheTray = async (page) => {
  await ride(page, "Biscuit");
  for (const [key, ms, outcome, weight] of [
    ["f", 900, "g", "5"],
    ["f", 700, "t", "6"],
    ["j", 400, "g", "3"],
    ["j", 300, "g", "3"],
  ])
    await ask(page, key, ms, outcome, weight);
  await page.keyboard.down("f");
  await page.waitForTimeout(1300);
  await page.keyboard.up("f");
};

const undoAll = async (page) => {
  const undo = page.getByRole("button", { name: "Undo" });
  while (await undo.isEnabled()) {
    await undo.click();
    await page.waitForTimeout(80);
  }
  await page.waitForTimeout(500);
};

/** The week after this one, planned where it is not yet, with the heaviest of its rides picked. */
const week = async (page) => {
  await page.goto(`${base}/week`);
  await page.getByRole("link", { name: "The week after" }).click();
  const plan = page.getByRole("button", { name: "Plan the week" });
  const planned = page.getByRole("button", { name: "Publish" });
  await plan.or(planned).waitFor();
  if (await plan.isVisible()) await plan.click();
  await planned.waitFor({ timeout: 30_000 });
  await page.locator("[data-ride]").nth(7).click();
};

async function idOf(page, name) {
  const all = await (
    await page.request.get(`${base}/api/horses?limit=200`)
  ).json();
  return all.items.find((h) => h.name === name).id;
}

/** The pattern bench with a barrel horse on it. */
const bench = async (page, tab) => {
  await page.goto(`${base}/patterns?horse=${await idOf(page, "Quarter Moon")}`);
  await page.getByRole("button", { name: /^Barrel 1 up close/ }).waitFor();
  if (tab) await page.getByRole("button", { name: tab, exact: true }).click();
};

/** Four turns on a drawn cow, the last past it. */
const onCattle = async (page) => {
  await ride(page, "Cinder");
  await page.getByLabel("Rung").selectOption("C7");
  await page.getByRole("button", { name: "Turns on cattle" }).click();
  await page.getByRole("button", { name: "Pick a cow" }).click();
  await page.getByRole("button", { name: /drawn/ }).first().click();
  const pads = page.getByRole("group", { name: "On cattle" });
  for (const turn of [
    "left, at the leg",
    "right, at the leg",
    "left, at the pad",
    "right, at the leg",
  ]) {
    await pads.getByRole("button", { name: `Turned ${turn}` }).click();
    await page.waitForTimeout(200);
  }
  await pads.getByRole("button", { name: "Past", exact: true }).click();
  await pads.getByText(/Go on/).waitFor();
};

/** A ready figure called on a ride: two calls in. */
const calledDrill = async (page) => {
  await ride(page, "Bristle");
  await page.goto(`${page.url()}?figure=ready%203`);
  const pads = page.getByRole("group", { name: "Calls" });
  const mount = page.getByRole("button", { name: "Get on" });
  await mount.or(pads).first().waitFor();
  if (await mount.isVisible()) await mount.click();
  for (const answer of ["Done", "Again"])
    await pads.getByRole("button", { name: answer }).click();
  await pads.getByText("try 2").waitFor();
};

/** Name, size, how to get there, and how to leave the demo as it was. */
const shots = [
  [
    "today",
    desk,
    async (page) => (
      await page.goto(base),
      await page.getByRole("list", { name: "Rides" }).waitFor()
    ),
  ],
  [
    "horses",
    desk,
    async (page) => (
      await page.goto(`${base}/horses`),
      await page.getByRole("table", { name: "Horses in work" }).waitFor(),
      await page.getByRole("button", { name: "Call", exact: true }).click()
    ),
  ],
  ["horse", desk, horse("Juniper")],
  [
    "barn",
    desk,
    async (page) => (
      await page.goto(`${base}/barn`),
      await page.getByText("Juniper").first().waitFor()
    ),
  ],
  [
    "book",
    desk,
    async (page) => (
      await page.goto(`${base}/book/T2`),
      await page.getByRole("article").waitFor()
    ),
  ],
  [
    "cattle",
    desk,
    async (page) => (
      await page.goto(`${base}/cattle`),
      await page.getByRole("list", { name: "The herd" }).waitFor()
    ),
  ],
  [
    "cattle-draw",
    desk,
    async (page) => (
      await page.goto(`${base}/cattle?view=draw`),
      await page.getByRole("combobox").first().waitFor()
    ),
  ],
  ["cattle-phone", phone, onCattle],
  [
    "flag",
    { width: 1280, height: 960 },
    async (page) => {
      const { rides } = await (
        await page.request.get(`${base}/api/today`)
      ).json();
      const { id } = rides.find((r) => r.ride.horse_name === "Lantern").ride;
      await page.goto(`${base}/cattle?view=flag&ride=${id}`);
      await page.getByRole("button", { name: "Start the programme" }).click();
      await page.getByText("It waits").waitFor();
    },
  ],
  [
    "practice",
    desk,
    async (page) => {
      await page.goto(`${base}/cattle?view=practice`);
      await page.getByRole("button", { name: "Begin (N)" }).click();
      const pen = page
        .getByRole("region", { name: "The pen" })
        .getByRole("img");
      // At the cow's head, where it will be in a moment, for a few seconds.
      let was = null;
      for (let n = 0; n < 70; n++) {
        const [cow, out] = (await pen.getAttribute("aria-label"))
          .match(/\d+/g)
          .map(Number);
        const box = await pen.boundingBox();
        const ahead = was === null ? 0 : 3 * (cow - was);
        was = cow;
        await page.mouse.move(
          box.x + ((cow + ahead) / 80) * box.width,
          box.y + ((60 - out + 10) / 60) * box.height,
        );
        await page.waitForTimeout(100);
      }
    },
  ],
  [
    "tack-bench",
    desk,
    async (page) => (
      await page.goto(`${base}/tack?view=bench`),
      await page.getByRole("slider", { name: "Weight on each rein" }).waitFor()
    ),
  ],
  [
    "tack-horse",
    { width: 1280, height: 1100 },
    async (page) => (
      await page.goto(`${base}/tack`),
      await page
        .getByRole("region", { name: "Saltlick" })
        .getByRole("button", { name: "Its road" })
        .click(),
      await page.getByRole("region", { name: "One rein and two" }).waitFor()
    ),
  ],
  [
    "patterns",
    desk,
    async (page) => (
      await bench(page, "Passes"),
      await page
        .getByRole("button", { name: "Show its track" })
        .first()
        .click(),
      await page.getByRole("button", { name: "Show its track" }).first().click()
    ),
  ],
  [
    "figures",
    { width: 1280, height: 1180 },
    async (page) => {
      await page.goto(
        `${base}/patterns?view=figures&figure=ready%205&horse=${await idOf(page, "Pilgrim")}`,
      );
      await page.getByRole("heading", { name: /What it asks of/ }).waitFor();
    },
  ],
  [
    "course",
    { width: 1280, height: 1250 },
    async (page) => {
      await page.goto(
        `${base}/patterns?view=course&horse=${await idOf(page, "Thistle")}`,
      );
      await page
        .getByRole("heading", { name: "The course for Thistle" })
        .waitFor();
    },
  ],
  ["drill-phone", phone, calledDrill, undoAll],
  ["week", { width: 1280, height: 1200 }, week],
  ["ride-phone", phone, inTheTray, undoAll],
  [
    "two-rein-phone-sun",
    phone,
    async (page) => (
      await ride(page, "Verbena"),
      await page.getByRole("button", { name: "Face for full sun" }).click(),
      await page.getByRole("button", { name: "Bears / Roots" }).click()
    ),
  ],
];

mkdirSync(out, { recursive: true });
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: ["--no-sandbox"],
});
for (const [name, viewport, go, after] of shots) {
  if (only.length > 0 && !only.includes(name)) continue;
  const context = await browser.newContext({
    viewport,
    hasTouch: viewport === phone,
    reducedMotion: "reduce",
  });
  const page = await context.newPage();
  await page.goto(base);
  await page.getByRole("button", { name: "Trainer" }).click();
  await page.getByRole("navigation", { name: "Today's horses" }).waitFor();
  await go(page);
  await page.evaluate(() => document.fonts.ready);
  await page.waitForTimeout(600);
  await page.screenshot({ path: `${out}/${name}.png` });
  console.log(`${name}.png`);
  await after?.(page);
  await context.close();
}
await browser.close();
