// The pattern bench: a short pen with ruts, what fits, the tape sheet, what a foot costs, passes, and what a watch tells.
import { readFile } from "node:fs/promises";
import { expect, test } from "@playwright/test";
import { newHorse, openHorse, ride, send, walkIn } from "./barn.mjs";

const tab = (page, name) =>
  page.getByRole("group", { name: "On the bench" }).getByRole("button", {
    name,
    exact: true,
  });
const spoken = (page, text) => page.getByText(text).first();

/** A place of its own to set barrels up in, and the bench in it. */
async function openPen(page, name, horse) {
  const id = crypto.randomUUID();
  const made = await send(page, "PUT", `/api/grounds/${id}`, {
    name: `${name} ${Date.now()}`,
    place: "arena",
    surface: "sand",
    length: 52,
    width: 34,
  });
  expect(made.status()).toBe(201);
  await page.goto(`/patterns?ground=${id}&set-up=new&horse=${horse}`);
  await expect(
    page.getByRole("heading", { level: 1, name: "Patterns" }),
  ).toBeVisible();
  return id;
}

const idOf = async (page, name) => {
  const all = await (await page.request.get("/api/horses?limit=200")).json();
  return all.items.find((h) => h.name === name).id;
};

async function fitted(page) {
  await page.getByRole("button", { name: "Fit the largest pattern" }).click();
  await expect(
    page.getByRole("button", { name: /^Barrel 3, left turn/ }),
  ).toBeVisible({ timeout: 20_000 });
}

async function saved(page) {
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("button", { name: "As a file" })).toBeVisible();
  const kept = await (await page.request.get("/api/set-ups")).json();
  return kept.items[0];
}

/** A run as a watch would note it: ten times a second, turned, and somewhere on the earth. */
function track(points, wide) {
  const start = Date.parse("2026-03-01T15:00:00Z");
  let out =
    '<?xml version="1.0"?><gpx version="1.1" creator="test" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>';
  let next = 0;
  for (const [x, y, , , t] of points) {
    if (t < next) continue;
    next = t + 0.1;
    const [e, n] = [x * 0.6 - y * 0.8 + wide, x * 0.8 + y * 0.6];
    const lat = -33 + n / 111_195;
    const lon = 150 + e / (111_195 * Math.cos((33 * Math.PI) / 180));
    out += `<trkpt lat="${lat.toFixed(8)}" lon="${lon.toFixed(8)}"><time>${new Date(start + t * 1000).toISOString()}</time></trkpt>`;
  }
  return `${out}</trkseg></trk></gpx>`;
}

test("a short, rutted pen is drawn, fitted, taped, costed and kept", async ({
  page,
}) => {
  await walkIn(page);
  const horse = await idOf(page, "Thistle");
  const ground = await openPen(page, "Short pen", horse);
  await tab(page, "Pen").click();
  const form = page.getByRole("form", { name: "The pen" });
  await form.getByLabel("Width").fill("112");
  await form.getByLabel("Length").fill("165 6");
  await form.getByRole("button", { name: "Add bad ground" }).click();
  await form.getByLabel("Up", { exact: true }).fill("90");
  await form.getByLabel("Across").fill("12");
  await form.getByRole("button", { name: "Save the pen" }).click();
  await expect(async () => {
    const { pen } = await (
      await page.request.get(`/api/grounds/${ground}/pen`)
    ).json();
    expect(pen.outline.length).toBeCloseTo(165.5 * 0.3048, 6);
    expect(pen.areas).toHaveLength(1);
  }).toPass();

  await tab(page, "Costs").click();
  await fitted(page);
  await expect(
    page.getByRole("status").filter({ hasText: "of the standard fits" }),
  ).toBeVisible();
  await expect(spoken(page, /^\d+\.\d\d s/)).toBeVisible();

  // A foot more pocket says what it costs, and the whole says it too.
  const seconds = async () =>
    Number(
      (
        await page
          .getByText(/^\d+\.\d\d s$/)
          .first()
          .innerText()
      ).split(" ")[0],
    );
  const before = await seconds();
  const said = page
    .getByText(/^A foot more[+−]/)
    .first()
    .locator("b");
  const cost = Number((await said.innerText()).replace("−", "-").split(" ")[0]);
  const slider = page.getByRole("slider", { name: /^In:/ });
  await slider.focus();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowRight");
  await expect(async () =>
    expect((await seconds()) - before).toBeCloseTo(cost, 1),
  ).toPass();

  // By keys: a barrel is moved a foot, and back.
  const barrel = page.getByRole("button", { name: /^Barrel 1, right turn/ });
  const was = await barrel.getAttribute("aria-label");
  await barrel.focus();
  await page.keyboard.press("ArrowUp");
  await expect(barrel).not.toHaveAttribute("aria-label", was);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(barrel).toHaveAttribute("aria-label", was);
  await page.getByRole("button", { name: "Redo" }).click();
  // By mouse: dragged half a pen's width to the left, in one undo.
  const box = await barrel.boundingBox();
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let n = 1; n <= 6; n++) await page.mouse.move(x - 4 * n, y);
  await page.mouse.up();
  const there = await barrel.getAttribute("aria-label");
  expect(there).not.toBe(was);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(barrel).not.toHaveAttribute("aria-label", there);

  // The sheet is read and printed.
  await tab(page, "Tape").click();
  await expect(page.getByRole("row")).toHaveCount(5);
  await expect(page.getByRole("cell", { name: /^barrel 3/ })).toBeVisible();
  await page.evaluate(() => (window.print = () => (window.printed = true)));
  await page.getByRole("button", { name: "Print the sheet" }).click();
  expect(await page.evaluate(() => window.printed)).toBe(true);
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("cell", { name: /^barrel 3/ })).toBeVisible();
  await expect(
    page.getByRole("button", { name: "Save", exact: true }),
  ).toBeHidden();
  await page.emulateMedia({ media: "screen" });

  // Kept, and there again after the page is loaded anew.
  await saved(page);
  const label = await barrel.getAttribute("aria-label");
  // What was done before it was kept can still be undone.
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(barrel).not.toHaveAttribute("aria-label", label);
  await page.getByRole("button", { name: "Redo" }).click();
  await expect(barrel).toHaveAttribute("aria-label", label);
  await page.reload();
  await expect(barrel).toHaveAttribute("aria-label", label);
});

test("two people who change a set-up at once lose nothing", async ({
  page,
  context,
}) => {
  await walkIn(page);
  await openPen(page, "Shared pen", await idOf(page, "Thistle"));
  await fitted(page);
  const kept = await saved(page);
  const other = await context.newPage();
  await other.goto(`/patterns?set-up=${kept.id}`);
  for (const one of [page, other]) {
    const barrel = one.getByRole("button", { name: /^Barrel 2, left turn/ });
    await barrel.focus();
    await one.keyboard.press("ArrowUp");
  }
  await saved(page);
  await other.getByRole("button", { name: "Save", exact: true }).click();
  await expect(other.getByRole("alert")).toContainText(/changed/i);
  // What was worked out is still on the bench.
  await expect(other.getByRole("button", { name: "Undo" })).toBeEnabled();
});

test("passes are logged on Ride, a watch is laid over, and the next plan changes", async ({
  page,
}) => {
  await walkIn(page);
  await openHorse(page, "Spool");
  const horse = page.url().split("/horses/")[1];
  await ride(page, "Spool");
  await page.getByLabel("Rung").selectOption("P3");
  for (const fault of [null, "Stepped off"]) {
    await page.getByRole("button", { name: "Log a pass" }).click();
    const form = page.getByRole("form", { name: "Log a pass" });
    await form.getByRole("button", { name: "Barrel 1 In: Good" }).click();
    await form.getByRole("button", { name: "Barrel 3 Behind: Wide" }).click();
    if (fault)
      await form.getByRole("button", { name: `Barrel 1: ${fault}` }).click();
    await form.getByRole("button", { name: "Log the pass" }).click();
    await expect(form.getByText("The pass is logged.")).toBeVisible();
    await expect(form.getByText("Not sent yet")).toBeHidden();
    await page.getByRole("button", { name: "Back to the ride" }).click();
  }
  await expect(page.getByRole("region", { name: "The pattern" })).toContainText(
    "a foot more pocket",
  );
  const { items } = await (
    await page.request.get(`/api/horses/${horse}/passes`)
  ).json();
  expect(items[0].barrels[0].faults).toEqual(["stepped-off"]);
  expect(items[1].barrels[2].pocket).toEqual([null, "wide", null]);

  await page.goto(`/patterns?horse=${horse}`);
  await tab(page, "Today").click();
  await expect(
    page.getByText(/stepped off on .*: a foot more pocket/).first(),
  ).toBeVisible();
  await page.getByRole("button", { name: "Use these pockets" }).first().click();
  await expect(
    page.getByRole("button", { name: /^Barrel 1 up close: 5 ft, 5 ft, 4 ft/ }),
  ).toBeVisible();

  // A watch tells where the horse went.
  const able = (
    await (await page.request.get(`/api/horses/${horse}/pattern-today`)).json()
  ).able.find((a) => a.gait === "jog").horse;
  const run = await (
    await send(page, "POST", "/api/patterns/run", {
      set_up: items[0].set_up,
      horse: able,
    })
  ).json();
  await tab(page, "Passes").click();
  const chooser = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "Lay a track over" }).first().click();
  await (
    await chooser
  ).setFiles({
    name: "pass.gpx",
    mimeType: "application/gpx+xml",
    buffer: Buffer.from(track(run.points, 12)),
  });
  await expect(page.getByText(/^By the watch, /).first()).toBeVisible();
  await page.getByRole("button", { name: "Show its track" }).first().click();
  await expect(
    page.getByRole("button", { name: "Hide its track" }),
  ).toBeVisible();

  // It is given out as it came in: a track, where it was.
  const gpx = page.waitForEvent("download");
  await page.getByRole("link", { name: "As GPX" }).first().click();
  const given = await readFile(await (await gpx).path(), "utf8");
  expect(given).toMatch(
    /<trkpt lat="-3[23]\.\d+" lon="150\.000\d+"><time>2026-03-01T15:00/,
  );

  // A second track beside it: where the time went, barrel by barrel.
  const second = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "Lay a track over" }).first().click();
  await (
    await second
  ).setFiles({
    name: "pass.gpx",
    mimeType: "application/gpx+xml",
    buffer: Buffer.from(track(run.points, 3)),
  });
  await page.getByRole("button", { name: "Show its track" }).first().click();
  const table = page.getByRole("table", { name: "Where the time went" });
  await expect(table.getByRole("row")).toHaveCount(6);
  await expect(table.getByRole("rowheader").last()).toHaveText("in all");

  // What was told wrong is told right.
  await page
    .getByRole("button", { name: "Correct", exact: true })
    .first()
    .click();
  const correct = page.getByRole("form", { name: "Correct the pass" });
  await correct.getByRole("button", { name: "Barrel 2: Broke gait" }).click();
  await correct.getByRole("button", { name: "Save", exact: true }).click();
  await expect(correct).toBeHidden();
  await expect(
    page.getByRole("list", { name: "Passes" }).getByRole("listitem").first(),
  ).toContainText("2: broke gait");

  // A file that is none says so, and the pass is still there.
  const again = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "Lay a track over" }).first().click();
  await (
    await again
  ).setFiles({
    name: "pass.gpx",
    mimeType: "application/gpx+xml",
    buffer: Buffer.from("<gpx"),
  });
  await expect(page.getByRole("alert")).toContainText("cannot be read as GPX");

  // Taken out, and put back.
  const list = page.getByRole("list", { name: "Passes" }).getByRole("listitem");
  const many = await list.count();
  await page.getByRole("button", { name: "Take out" }).first().click();
  await expect(list).toHaveCount(many - 1);
  await page.getByRole("status").getByRole("button", { name: "Undo" }).click();
  await expect(list).toHaveCount(many);
});

test("a run is played at true speed", async ({ page }) => {
  await walkIn(page);
  await page.goto(`/patterns?horse=${await idOf(page, "Quarter Moon")}`);
  const play = page.getByRole("button", { name: "Play", exact: true });
  await expect(play).toBeEnabled({ timeout: 20_000 });
  await play.click();
  const stop = page.getByRole("button", { name: /s – stop$/ });
  await expect(stop).toBeVisible();
  // The clock on the button and the page's own, read in one moment.
  const both = () =>
    stop.evaluate((button) => [
      parseFloat(button.textContent),
      performance.now() / 1000,
    ]);
  const [from, began] = await both();
  await page.waitForTimeout(2000);
  const [shown, ended] = await both();
  expect(Math.abs(shown - from - (ended - began))).toBeLessThan(0.4);
  await stop.click();
  await expect(play).toBeVisible();
});

test("a barn with no pattern says what to do", async ({ page }) => {
  await walkIn(page);
  await newHorse(page, "Patternless");
  await openPen(page, "Empty pen", await idOf(page, "Patternless"));
  await expect(page.getByText("No barrels in this pen yet")).toBeVisible();
  await tab(page, "Today").click();
  await expect(page.getByText("Walk it once")).toBeVisible({ timeout: 20_000 });
});
