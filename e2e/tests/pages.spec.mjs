import { execFileSync } from "node:child_process";
import { expect, test } from "@playwright/test";
import { emptyPorts } from "../ports.mjs";
import {
  askByKeys,
  newHorse,
  newHorseByHand,
  openHorse,
  ride,
  walkIn,
  walkInByButton,
} from "./barn.mjs";

test("the string is walked with the bracket keys and pages open by their letters", async ({
  page,
}) => {
  await walkIn(page);
  const first = page
    .getByRole("navigation", { name: "Today's horses" })
    .getByRole("link")
    .first();
  await expect(first).toBeVisible();
  const name = (await first.locator("b").textContent()).trim();
  await page.keyboard.press("]");
  await expect(page.getByRole("heading", { level: 1, name })).toBeVisible();
  await page.keyboard.press("[");
  await expect(page.getByRole("heading", { level: 1, name })).toBeHidden();
  await page.keyboard.press("b");
  await expect(
    page.getByRole("heading", { level: 1, name: "Three Cedars" }),
  ).toBeVisible();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Shortcuts" })).toBeVisible();
});

test("a slipping horse is called back with its figures, on Today and on its page", async ({
  page,
}) => {
  await walkIn(page);
  await expect(
    page.getByRole("navigation", { name: "Today's horses" }),
  ).toContainText(/Marlow\s*\d+:\d+\s*slipping/);
  await openHorse(page, "Marlow");
  const call = page.locator("[data-call]").first();
  await expect(call).toContainText("Back");
  await expect(call).toContainText(
    /Was owned, and is (over )?\d+% likely to be under the standard now/i,
  );
});

test("a wrongly logged rep is put right and the trail says who and what", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Slip of the Pen");
  await ride(page, "Slip of the Pen");
  await askByKeys(page, { side: "left", outcome: "none", weight: "tug" });
  await expect(page.getByText("1 rep, all sent")).toBeVisible();
  await page.keyboard.press("c");
  await page.getByRole("button", { name: "Close the ride" }).click();
  await page
    .getByRole("button", { name: /Correct: no answer at a tug/ })
    .click();
  await page.getByLabel("Weight").click();
  await page.getByRole("option", { name: "egg" }).click();
  await page.getByLabel(/Seconds/).fill("-3");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("is not a time from ask to give")).toBeVisible();
  await page.getByLabel(/Seconds/).fill("1.1");
  await page.getByRole("button", { name: "Save" }).click();
  const trail = page.getByRole("region", { name: "Corrections" });
  await expect(trail).toContainText("Mara Quill");
  await expect(trail).toContainText("no answer at a tug");
  await expect(trail).toContainText("no answer at an egg, 1.1 s");
});

test("a horse is put on today and taken off again", async ({ page }) => {
  await walkIn(page);
  await newHorse(page, "Guest");
  await page.keyboard.press("t");
  await page.getByRole("button", { name: "Add a ride" }).click();
  await page.getByRole("combobox", { name: "Horse" }).click();
  await page.getByRole("option", { name: "Guest" }).click();
  await page.getByLabel("Hour").fill("11:30");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  const row = page.getByRole("listitem").filter({ hasText: "Guest" });
  await expect(row).toContainText("11:30");
  await expect(
    page.getByRole("navigation", { name: "Today's horses" }),
  ).toContainText("Guest");
  await page.getByRole("button", { name: "Guest is not ridden" }).click();
  await page.getByRole("button", { name: "Take Guest off today" }).click();
  await expect(row).toHaveCount(0);
});

test("bad input stays on the screen with what is wrong at its field", async ({
  page,
}) => {
  await walkIn(page);
  await page.goto("/barn");
  await page.getByRole("button", { name: "Add a horse" }).click();
  await page.getByLabel("Year foaled").fill("12");
  await page.getByLabel("Note").fill("came with a halter");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("this cannot be empty")).toBeVisible();
  await expect(page.getByText("a year of birth has four digits")).toBeVisible();
  await expect(page.getByLabel("Note")).toHaveValue("came with a halter");
});

test("a change that someone else overtook is told and nothing is overwritten", async ({
  page,
  browser,
  baseURL,
}) => {
  await walkIn(page);
  await newHorse(page, "Two Hands");
  await page.goto("/barn");
  await page.getByRole("button", { name: "Change Two Hands" }).click();
  const other = await (await browser.newContext({ baseURL })).newPage();
  await walkIn(other);
  await other.goto("/barn");
  await other.getByRole("button", { name: "Change Two Hands" }).click();
  await other.getByLabel("Note").fill("theirs");
  await other.getByRole("button", { name: "Save" }).click();
  await expect(other.getByRole("dialog")).toBeHidden();
  await page.getByLabel("Note").fill("mine");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(
    page.getByText("Someone changed this horse meanwhile"),
  ).toBeVisible();
  await expect(page.getByLabel("Note")).toHaveValue("mine");
  await other.reload();
  await other.getByRole("button", { name: "Change Two Hands" }).click();
  await expect(other.getByLabel("Note")).toHaveValue("theirs");
});

test("a horse is archived and comes back, and an owner only reads", async ({
  page,
  browser,
  baseURL,
}) => {
  await walkInByButton(page, "Trainer");
  await newHorseByHand(page, "Pasture");
  await page.goto("/barn");
  await page.getByRole("button", { name: "Change Pasture" }).click();
  await page.getByRole("button", { name: "Archive", exact: true }).click();
  await expect(
    page.getByRole("button", { name: "Change Pasture" }),
  ).toBeHidden();
  await page.getByRole("button", { name: "Show the archived" }).click();
  await page.getByRole("button", { name: "Change Pasture" }).click();
  await page.getByRole("button", { name: "Restore" }).click();
  await expect(page.getByRole("dialog")).toBeHidden();

  const owner = await (await browser.newContext({ baseURL })).newPage();
  await walkInByButton(owner, "Owner");
  await expect(owner.getByRole("list", { name: "Rides" })).toBeVisible();
  await expect(owner.getByRole("link", { name: /^Ride / })).toHaveCount(0);
  await owner.goto("/horses");
  await expect(
    owner.getByRole("main").getByRole("link", { name: /^Juniper/ }),
  ).toBeVisible();
  await expect(
    owner.getByRole("main").getByRole("link", { name: /^Marlow/ }),
  ).toHaveCount(0);
});

test("a new installation creates its first trainer, who signs out and in again and invites an assistant", async ({
  page,
  browser,
}) => {
  // Another try begins with nothing again.
  const { retry } = test.info();
  const base = `http://127.0.0.1:${emptyPorts[retry]}`;
  await page.goto(base);
  await expect(page.getByRole("button", { name: "Trainer" })).toHaveCount(0);
  await page.getByLabel("Name of the barn").fill("Low Meadow");
  await page.getByLabel("Your name").fill("Ada");
  await page.getByLabel(/E-mail/).fill("ada@low.example");
  await page.getByLabel(/Password/).fill("short");
  await page.getByRole("button", { name: "Open the barn" }).click();
  await expect(
    page.getByText("a password has 12 to 128 characters"),
  ).toBeVisible();
  await page.getByLabel(/Password/).fill("a quiet hand and time");
  await page.getByRole("button", { name: "Open the barn" }).click();
  await expect(page.getByText("No rides today.")).toBeVisible();
  await page.goto(`${base}/barn`);
  await page.getByRole("button", { name: "Sign out", exact: true }).click();
  await page.getByLabel("E-mail").fill("ada@low.example");
  await page.getByLabel("Password").fill("a quiet hand and time");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("navigation", { name: "Pages" })).toBeVisible();

  await page.goto(`${base}/barn`);
  await page.getByRole("button", { name: "Add a person" }).click();
  await page.getByLabel("Name").fill("Wim Acker");
  await page.getByLabel("E-mail").fill("wim@low.example");
  await page.getByRole("button", { name: "Save" }).click();
  await page.getByRole("button", { name: "Invite by link" }).click();
  const link = await page.getByLabel("Link").inputValue();
  const other = await (await browser.newContext()).newPage();
  await other.goto(link);
  await expect(
    other.getByRole("heading", { name: "Welcome to Low Meadow, Wim Acker" }),
  ).toBeVisible();
  await other.getByLabel("Password").fill("saddle1234");
  await expect(other.getByRole("status")).toContainText("12 to 128 characters");
  await other.getByLabel("Password").fill("gate hinge apple thunder");
  await expect(other.getByRole("status")).toHaveText("Strong.");
  await other.getByRole("button", { name: "Set the password" }).click();
  await expect(other.getByText("No rides today.")).toBeVisible();
  await other.goto(link);
  await expect(
    other.getByRole("heading", { name: "The link has ended" }),
  ).toBeVisible();

  await page.goto(`${base}/barn/security`);
  await expect(page.getByText("Set a password by link")).toBeVisible();

  // Another barn, added on the server's command line: its trainer has an account here already.
  const added = execFileSync(
    process.env.CAVESSON ?? "../target/debug/cavesson",
    [
      ...["barn", "add", "High Ridge", "--time-zone", "America/Denver"],
      ...["--trainer", "Wim Acker", "--email", "wim@low.example"],
    ],
    {
      env: {
        ...process.env,
        DATABASE_URL: `${process.env.E2E_DATABASES}empty_${retry}`,
      },
    },
  ).toString();
  await other.goto(`${base}${added.trim().split("\n").at(-1)}`);
  await expect(
    other.getByRole("heading", { name: "Welcome to High Ridge, Wim Acker" }),
  ).toBeVisible();
  await other.getByLabel("Password").fill("a guess of another");
  await other.getByRole("button", { name: "Join High Ridge" }).click();
  await expect(other.getByRole("alert")).toContainText("do not go together");
  await other.getByLabel("Password").fill("gate hinge apple thunder");
  await other.getByRole("button", { name: "Join High Ridge" }).click();
  await expect(other.getByText("No rides today.")).toBeVisible();
  await other.goto(`${base}/barn`);
  const barns = other.getByRole("region", { name: "Your barns" });
  await expect(barns.getByRole("listitem")).toHaveText([
    /High Ridge · Trainer\s*You are here/,
    /Low Meadow · Assistant\s*Enter/,
  ]);
  await barns.getByRole("button", { name: "Enter Low Meadow" }).click();
  await expect(other).toHaveURL(`${base}/`);
  await expect(other.getByText("No rides today.")).toBeVisible();
  await other.goto(`${base}/barn`);
  await expect(
    other.getByRole("heading", { name: "Low Meadow", level: 1 }),
  ).toBeVisible();
  await expect(
    other.getByRole("button", { name: "Change the barn" }),
  ).toHaveCount(0);
});
