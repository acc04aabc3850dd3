// What stands in the week besides rides: written down, read out of a calendar, shows ahead; why a ride was not ridden; the balance.
import { expect, test } from "@playwright/test";
import { newHorse, send, walkIn } from "./barn.mjs";

const rows = (page) =>
  page.getByRole("list", { name: "Appointments" }).getByRole("listitem");
const dayOf = async (page, after) => {
  const me = await (await page.request.get("/api/me")).json();
  return new Date(Date.parse(`${me.today}T00:00:00Z`) + after * 86_400_000)
    .toISOString()
    .slice(0, 10);
};

async function pick(page, label, names) {
  const field = page.getByRole("combobox", { name: label, exact: true });
  for (const name of names) {
    await field.fill(name);
    await page.getByRole("option", { name, exact: true }).click();
  }
  await field.press("Escape");
}

test("the farrier comes every six weeks, and the week is planned around it", async ({
  page,
}) => {
  const title = `Feet ${test.info().retry}`;
  await walkIn(page);
  await page.goto("/week/appointments");
  await page.getByRole("button", { name: "Add an appointment" }).click();
  const form = page.getByRole("dialog", { name: "Add an appointment" });
  await form.getByLabel("In a few words").fill(title);
  await form.getByLabel("Day", { exact: true }).fill(await dayOf(page, 50));
  await form.getByLabel("From").fill("11:00");
  await form.getByLabel("To", { exact: true }).fill("09:00");
  await form.getByLabel("Repeats").click();
  await page.getByRole("option", { name: "Every so many weeks" }).click();
  await pick(page, "Horses", ["Marlow", "Wren"]);
  await form.getByRole("button", { name: "Save" }).click();
  // What was typed stays, with what is wrong at its field.
  await expect(form.getByText("it ends before it starts")).toBeVisible();
  await expect(form.getByLabel("In a few words")).toHaveValue(title);
  await form.getByLabel("From").fill("06:00");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form).toBeHidden();
  const mine = rows(page).filter({ hasText: title });
  await expect(mine).toContainText("every 6 weeks");
  await expect(mine).toContainText("Marlow, Wren");
  await page.goto(`/week/${await dayOf(page, 50)}`);
  await expect(page.getByRole("region", { name: "The week" })).toContainText(
    title,
  );
  await page.goto("/week/appointments");
  await mine.getByRole("button", { name: /Remove/ }).click();
  await expect(mine).toHaveCount(0);
});

test("a calendar is looked at entry by entry, then comes in once", async ({
  page,
}) => {
  const name = `Calendar try ${test.info().retry}`;
  await walkIn(page);
  await newHorse(page, name);
  const day = (await dayOf(page, 20)).replaceAll("-", "");
  const file = [
    "BEGIN:VCALENDAR",
    "VERSION:2.0",
    "PRODID:-//invented//EN",
    "BEGIN:VEVENT",
    `UID:one-${test.info().retry}`,
    `SUMMARY:Teeth: ${name}`,
    `DTSTART;TZID=America/Chicago:${day}T090000`,
    "DURATION:PT45M",
    "END:VEVENT",
    "BEGIN:VEVENT",
    "UID:two",
    "SUMMARY:Hay delivery",
    `DTSTART:${day}T090000`,
    "END:VEVENT",
    "END:VCALENDAR",
    "",
  ].join("\r\n");
  const bring = () =>
    page.locator('input[type="file"]').setInputFiles({
      name: "barn.ics",
      mimeType: "text/calendar",
      buffer: Buffer.from(file),
    });
  await page.goto("/week/appointments");
  await bring();
  const look = page.getByRole("region", { name: "What would come in" });
  await expect(look).toContainText("1 of 2 would come in");
  await expect(look).toContainText("Takes nobody: Hay delivery");
  await expect(rows(page).filter({ hasText: name })).toHaveCount(0);
  await look.getByRole("button", { name: "Take them in" }).click();
  await expect(page.getByText("1 imported.")).toBeVisible();
  await expect(rows(page).filter({ hasText: `Teeth: ${name}` })).toContainText(
    "Dentist",
  );
  await bring();
  await expect(look).toContainText("In already");
  await look.getByRole("button", { name: "Cancel" }).click();
  // What is no calendar is told.
  await page.locator('input[type="file"]').setInputFiles({
    name: "notes.txt",
    mimeType: "text/plain",
    buffer: Buffer.from("Farrier on Wednesday"),
  });
  await expect(page.getByText("This is no calendar")).toBeVisible();
});

test("a show says early what it will not see of a horse", async ({ page }) => {
  const name = `Show try ${test.info().retry}`;
  await walkIn(page);
  await newHorse(page, name);
  await page.goto("/week/appointments");
  await page.getByRole("button", { name: "Add an appointment" }).click();
  const form = page.getByRole("dialog", { name: "Add an appointment" });
  await form.getByLabel("What", { exact: true }).click();
  await page.getByRole("option", { name: "Show", exact: true }).click();
  await form.getByLabel("In a few words").fill(`Show of ${name}`);
  await form.getByLabel("Day", { exact: true }).fill(await dayOf(page, 25));
  await form.getByLabel("Days in a row").fill("2");
  await pick(page, "Horses", [name]);
  const asks = form.getByRole("combobox", {
    name: "What the show asks of them",
  });
  await asks.fill("T3");
  await page.getByRole("option", { name: /^T3/ }).first().click();
  await asks.press("Escape");
  await form.getByRole("button", { name: "Save" }).click();
  const mine = rows(page).filter({ hasText: `Show of ${name}` });
  await expect(mine).toContainText("not in sight");
  await expect(mine).toContainText("drop it from the show");
  await page.goto("/week");
  await expect(page.getByText(`${name}, Show of ${name} on`)).toBeVisible();
});

test("a ride not ridden says why in one tap, and the rest of the week is mended", async ({
  page,
}) => {
  await walkIn(page);
  const today = await dayOf(page, 0);
  // Someone rides all day on every day, so that today is not over whenever this runs.
  const people = await (await page.request.get("/api/people")).json();
  const dell = people.items.find((p) => p.name === "Dell Okafor");
  const set = (hours) =>
    send(page, "PUT", `/api/people/${dell.id}/hours`, { hours });
  await set(
    [0, 1, 2, 3, 4, 5, 6].map((weekday) => ({
      weekday,
      from: "00:00",
      to: "24:00",
    })),
  );
  const name = `Missed try ${test.info().retry}`;
  await newHorse(page, name);
  await page.goto("/week");
  const week = () =>
    page.request.get(`/api/weeks/${today}`).then((r) => r.json());
  const before = await week();
  const work = before.works.find(
    (w) => before.horses.find((h) => h.id === w.horse_id)?.name === name,
  );
  const ride = {
    work: work.id,
    day: before.today,
    start: "05:00",
    place: work.places[0],
    rider: dell.id,
  };
  const kept = await send(page, "PUT", `/api/weeks/${today}`, {
    version: before.version,
    rides: [...before.rides.filter((r) => !r.ridden), ride],
  });
  const version = (await kept.json()).version;
  await send(page, "POST", `/api/weeks/${today}/publish`, { version });
  await page.goto("/");
  await page.getByRole("button", { name: `${name} is not ridden` }).click();
  await page
    .getByRole("group", { name: `Why was ${name} not ridden` })
    .getByRole("button", { name: "Weather" })
    .click();
  await expect(page.getByText("Not ridden: weather")).toBeVisible();
  await expect(
    page.getByText(/^The (week is mended|rest of the week)/),
  ).toBeVisible({
    timeout: 60_000,
  });
  const after = await week();
  expect(after.version).toBeGreaterThan(version);
  expect(
    after.rides.some((r) => r.work === work.id && r.day === before.today),
  ).toBe(false);
  await page.getByRole("button", { name: `Ride ${name} after all` }).click();
  await expect(page.getByText("Not ridden: weather")).toHaveCount(0);
  await set([]);
});

test("the balance of the months shows rides, loads, riders and subjects", async ({
  page,
}) => {
  await walkIn(page);
  await page.goto("/week");
  await page.getByRole("link", { name: "Balance" }).click();
  await expect(
    page.getByRole("heading", { level: 1, name: "Balance" }),
  ).toBeVisible();
  const table = page.getByRole("region", { name: "Horses" });
  await expect(table.getByRole("row", { name: /Marlow/ })).toBeVisible();
  await expect(
    table.getByRole("img", { name: /^Rides, week by week/ }).first(),
  ).toBeVisible();
  const bars = () => table.getByRole("img").first().locator("rect").count();
  expect(await bars()).toBe(13);
  await page.getByRole("button", { name: "6 months" }).click();
  await expect.poll(bars).toBe(26);
  await expect(page.getByRole("heading", { name: "Who rode" })).toBeVisible();
});

test("today prints as a page a rider", async ({ page }) => {
  await walkIn(page);
  await expect(
    page.getByRole("list", { name: "Rides" }).getByRole("listitem").first(),
  ).toBeVisible();
  const today = await (await page.request.get("/api/today")).json();
  const riders = new Set(
    today.rides.filter((r) => !r.ride.missed).map((r) => r.ride.rider_id),
  );
  expect(riders.size).toBeGreaterThan(1);
  // The pages for printing come after what is on the screen.
  const pages = page.locator(".on-paper > section");
  await expect(pages).toHaveCount(riders.size);
  const pdf = (await page.pdf({ preferCSSPageSize: true })).toString("latin1");
  expect(pdf.match(/\/Type\s*\/Page\b/g)).toHaveLength(riders.size);
});
