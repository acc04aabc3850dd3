// The week: planned, moved and locked by mouse and by keys, mended when a rider is ill, published, and printed.
import { expect, test } from "@playwright/test";
import ICAL from "ical.js";
import { send, walkIn } from "./barn.mjs";

const chips = (page) => page.locator("[data-ride]");
const said = (chip) => chip.getAttribute("aria-label");

/** Opens a week so many after the next one, so that no test meets another's: on a Sunday the next one has what others put on tomorrow. */
async function openWeek(page, ahead) {
  const me = await (await page.request.get("/api/me")).json();
  const day = new Date(
    Date.parse(`${me.today}T00:00:00Z`) +
      (1 + ahead + 10 * test.info().retry) * 7 * 86_400_000,
  )
    .toISOString()
    .slice(0, 10);
  await page.goto(`/week/${day}`);
  await expect(
    page.getByRole("heading", { level: 1, name: /^Week of/ }),
  ).toBeVisible();
}

async function planIt(page) {
  await page.getByRole("button", { name: "Plan the week" }).click();
  await expect(page.getByRole("button", { name: "Publish" })).toBeVisible({
    timeout: 60_000,
  });
  await expect(page.getByText("Draft: only you see it")).toBeVisible();
}

test("a week is planned, moved and locked by keys and by mouse, and published", async ({
  page,
}) => {
  await walkIn(page);
  await openWeek(page, 1);
  await planIt(page);
  await expect(page.getByRole("region", { name: "Left out" })).toBeVisible();
  await expect(page.getByText("Breaks a rule")).toHaveCount(0);
  const many = await chips(page).count();
  expect(many).toBeGreaterThan(30);

  // By keys: a quarter of an hour later, locked, and all of it taken back.
  const first = chips(page).first();
  const was = await said(first);
  await first.focus();
  await page.keyboard.press("ArrowDown");
  const focused = page.locator("[data-ride]:focus");
  await expect(focused).not.toHaveAttribute("aria-label", was);
  await page.keyboard.press("l");
  await expect(focused).toHaveAttribute("aria-label", /locked/);
  await page.keyboard.press("ArrowUp");
  await expect(focused).toHaveAttribute("aria-label", `${was}, locked`);
  for (let n = 0; n < 3; n++)
    await page.getByRole("button", { name: "Undo" }).click();
  await expect(chips(page).first()).toHaveAttribute("aria-label", was);

  // By mouse: picked, dropped, put back in from the tray.
  await chips(page).first().click();
  const ride = page.getByRole("region", { name: "The ride" });
  await expect(ride).toContainText("Minutes × intensity");
  // What was left out comes in another order once the server has judged the week: not while the mouse is down on it.
  const judged = page.waitForResponse(
    async (it) =>
      it.request().method() === "PUT" &&
      (await it.json()).rides?.length === many - 1,
  );
  await ride.getByRole("button", { name: "Drop" }).click();
  await expect(chips(page)).toHaveCount(many - 1);
  await judged;
  await page
    .getByRole("region", { name: "Left out" })
    .getByRole("button", { name: "Add" })
    .first()
    .click();
  await page
    .getByRole("button", { name: /^Put it here: .*day 7/ })
    .first()
    .click();
  await expect(chips(page)).toHaveCount(many);
  // Nobody rides on a Sunday: the rule is named at once, and taking it back mends it.
  await expect(page.getByText("Breaks a rule").first()).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("Breaks a rule")).toHaveCount(0);
  await expect(chips(page)).toHaveCount(many);

  await page.getByRole("button", { name: "Publish" }).click();
  await expect(page.getByText("Published", { exact: true })).toBeVisible();
  await page.reload();
  await expect(chips(page)).toHaveCount(many);

  // By the clock of the barn, as the plan has them.
  const me = await (await page.request.get("/api/me")).json();
  const inTheBarn = new Intl.DateTimeFormat("sv-SE", {
    dateStyle: "short",
    timeStyle: "short",
    timeZone: me.barn.time_zone,
  });
  // The rides of one rider, read back from the calendar by a general-purpose library.
  const shown = await chips(page).evaluateAll((all) =>
    all.map((c) => [c.getAttribute("aria-label"), c.dataset.ride]),
  );
  const day = new Date(`${page.url().split("/").pop()}T00:00Z`);
  day.setUTCDate(day.getUTCDate() - ((day.getUTCDay() + 6) % 7));
  const expected = shown
    .filter(([label]) => label.includes("Dell Okafor"))
    .map(([label, ride]) => {
      const [, after, start] = ride.split("|");
      const [hour, minute] = start.split(":");
      const at = new Date(day);
      at.setUTCDate(at.getUTCDate() + Number(after));
      at.setUTCHours(Number(hour), Number(minute));
      return `${at.toISOString().slice(0, 16)} Ride ${label.slice(6, label.indexOf(":", 6))}`;
    });
  await page.getByRole("button", { name: "Calendars" }).click();
  await page
    .getByRole("button", { name: "Create an address for Dell Okafor" })
    .click();
  const address = await page.getByText(/\/calendar\/.*\.ics$/).textContent();
  const text = await (await page.request.get(address)).text();
  const read = new ICAL.Component(ICAL.parse(text))
    .getAllSubcomponents("vevent")
    .map((e) => new ICAL.Event(e))
    .map(
      (e) =>
        `${inTheBarn.format(e.startDate.toJSDate()).replace(" ", "T")} ${e.summary}`,
    );
  expect(expected.length).toBeGreaterThan(3);
  for (const ride of expected) expect(read).toContain(ride);
});

test("a rider is ill: the rest of the week is mended, and what moved is said", async ({
  page,
}) => {
  await walkIn(page);
  await openWeek(page, 2);
  await planIt(page);
  const before = await chips(page).evaluateAll((all) =>
    all.map((c) => c.getAttribute("aria-label")),
  );
  await page.getByRole("button", { name: "Someone is off" }).click();
  const form = page.getByRole("dialog", { name: "Someone is off" });
  await form.getByLabel("Rider or horse").click();
  await page.getByRole("option", { name: "Mara Quill" }).click();
  await form.getByLabel("Why").fill("ill");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText(/^\d+ moved$/)).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText("Breaks a rule")).toHaveCount(0);
  const after = await chips(page).evaluateAll((all) =>
    all.map((c) => c.getAttribute("aria-label")),
  );
  const stayed = before.filter((label) => after.includes(label)).length;
  expect(stayed).toBeGreaterThan(before.length / 2);
});

test("a draft is not shown to an assistant, and a plan can be stopped", async ({
  page,
}) => {
  await walkIn(page, "Assistant");
  await openWeek(page, 3);
  await expect(
    page.getByText("Nothing is published for this week yet"),
  ).toBeVisible();
  await expect(page.getByRole("button", { name: /^Plan/ })).toBeHidden();
  await page.context().clearCookies();
  await walkIn(page);
  await openWeek(page, 3);
  await page.getByRole("button", { name: "Plan the week" }).click();
  await page.getByRole("button", { name: "Stop", exact: true }).click();
  await expect(page.getByText("Not planned")).toBeVisible();
  await page.reload();
  await expect(page.getByText("Nothing is planned yet")).toBeVisible();
});

test("the week prints on one page for the barn wall, whatever stands above it", async ({
  page,
}) => {
  await walkIn(page);
  // A full barn: more horses than the page would hold at its usual size, and a show that warns about each of them.
  const horses = [];
  for (let n = 0; n < 26; n++) {
    horses.push(crypto.randomUUID());
    await send(page, "PUT", `/api/horses/${horses[n]}`, {
      name: `Wall ${n} try ${test.info().retry}`,
    });
  }
  const { steps } = await (await page.request.get("/api/curriculum")).json();
  const me = await (await page.request.get("/api/me")).json();
  const show = `/api/appointments/${crypto.randomUUID()}`;
  await send(page, "PUT", show, {
    version: 0,
    kind: "show",
    title: "Wall show",
    day: me.today,
    days: 1,
    from: "00:00",
    to: "24:00",
    rule: "FREQ=WEEKLY;COUNT=12",
    wants: [steps.find((s) => s.rung === "T3").id],
    people: [],
    horses,
  });
  await openWeek(page, 4);
  await expect(
    page.getByText(
      new RegExp(`^Wall \\d+ try ${test.info().retry}, Wall show on`),
    ),
  ).toHaveCount(26);
  await planIt(page);
  for (const width of [390, 1280, 2200]) {
    await page.setViewportSize({ width, height: 800 });
    const pdf = (
      await page.pdf({ preferCSSPageSize: true, printBackground: true })
    ).toString("latin1");
    // A PDF names each of its pages, and its size in points: a letter page on its side is 792 by 612.
    expect(pdf.match(/\/Type\s*\/Page\b/g)).toHaveLength(1);
    expect(pdf).toMatch(/\/MediaBox\s*\[0 0 79[12](\.\d+)? 61[12](\.\d+)?\]/);
  }
  await send(page, "DELETE", show);
});

test("hours are set as people write them, and what is wrong with them is said", async ({
  page,
}) => {
  await walkIn(page);
  await openWeek(page, 5);
  await page.getByRole("button", { name: "Hours" }).click();
  const june = page.getByRole("form", { name: "June Sandry" });
  const monday = june.getByLabel("Mon");
  const was = await monday.inputValue();
  await monday.fill("12-7");
  await june.getByRole("button", { name: "Save" }).click();
  await expect(june.getByText("it ends before it starts")).toBeVisible();
  await expect(monday).toHaveValue("12-7");
  await monday.fill("7-11:30");
  await june.getByRole("button", { name: "Save" }).click();
  await expect(june.getByText("Saved")).toBeVisible();
  await page.reload();
  await page.getByRole("button", { name: "Hours" }).click();
  await expect(monday).toHaveValue("07:00-11:30");
  await monday.fill(was);
  await june.getByRole("button", { name: "Save" }).click();
  await expect(june.getByText("Saved")).toBeVisible();
});
