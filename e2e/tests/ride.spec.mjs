import { expect, test } from "@playwright/test";
import {
  askByKeys,
  newHorse,
  padOf,
  ride,
  tellOutcome,
  tellWeight,
  walkIn,
} from "./barn.mjs";

test.use({ serviceWorkers: "allow" });

/** The same ride three ways: who asks, what it came to. The one-rein stop, both sides. */
const REPS = [
  { side: "left", outcome: "tried", weight: "fingers", ms: 900 },
  { side: "left", outcome: "gave", weight: "orange", ms: 600 },
  { side: "left", outcome: "gave", weight: "lemon", ms: 400 },
  { side: "right", outcome: "gave", weight: "egg", ms: 300 },
  { side: "right", outcome: "gave", weight: "egg", ms: 300 },
];

const byMouse = async (page, rep) => {
  const box = await padOf(page, rep.side).boundingBox();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.waitForTimeout(rep.ms);
  await page.mouse.up();
  await tellOutcome(page, rep.outcome).click();
  await tellWeight(page, rep.weight).click();
};

const byTouch = async (page, rep) => {
  const cdp = await page.context().newCDPSession(page);
  const box = await padOf(page, rep.side).boundingBox();
  const at = [{ x: box.x + box.width / 2, y: box.y + box.height / 2 }];
  await cdp.send("Input.dispatchTouchEvent", {
    type: "touchStart",
    touchPoints: at,
  });
  await page.waitForTimeout(rep.ms);
  await cdp.send("Input.dispatchTouchEvent", {
    type: "touchEnd",
    touchPoints: [],
  });
  await tellOutcome(page, rep.outcome).tap();
  await tellWeight(page, rep.weight).tap();
};

for (const [how, log, use] of [
  ["mouse", byMouse, {}],
  [
    "touch",
    byTouch,
    { hasTouch: true, isMobile: true, viewport: { width: 390, height: 844 } },
  ],
  ["keys", askByKeys, {}],
]) {
  test.describe(`with ${how}`, () => {
    test.use(use);
    test(`a ride is logged with ${how} and the call follows`, async ({
      page,
    }) => {
      await walkIn(page);
      const name = `Test ${how}`;
      await newHorse(page, name);
      await expect(page.getByText("Nothing logged yet")).toBeVisible();
      await ride(page, name);
      for (const rep of REPS) await log(page, rep);
      await expect(page.getByText("5 reps, all sent")).toBeVisible();
      await expect(
        page.getByRole("group", { name: "Reps left" }),
      ).toContainText("gave 2 of 3");
      await expect(
        page.getByRole("group", { name: "Reps right" }),
      ).toContainText("gave 2 of 2");
      const seconds = await page
        .getByRole("img", { name: /^tried at two fingers/ })
        .getAttribute("aria-label");
      expect(Number(/([\d.]+) s/.exec(seconds)[1])).toBeGreaterThanOrEqual(0.9);
      if (how === "keys") await page.keyboard.press("c");
      else await page.getByRole("button", { name: "Close" }).click();
      await page.getByLabel("Note for tomorrow").fill("Left first");
      await page.keyboard.press("Tab");
      await page.getByRole("button", { name: "Close the ride" }).press("Enter");
      const call = page.locator("[data-call='G7@walk']");
      await expect(call).toContainText("Hold");
      await expect(call).toContainText("1 of 3 days so far");
      await expect(page.getByText("Left first")).toBeVisible();
    });
  });
}

test("the time can be corrected, a rep reopened, taken out and taken back", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Second Thought");
  await ride(page, "Second Thought");
  await page.keyboard.down("f");
  await page.waitForTimeout(500);
  await page.keyboard.up("f");
  const seconds = page.getByLabel("Seconds");
  const first = Number.parseFloat(await seconds.textContent());
  await page.getByRole("button", { name: "A tenth more" }).click();
  await expect(seconds).toHaveText(`${(first + 0.1).toFixed(1)} s`);
  await page.getByRole("button", { name: "leans" }).click();
  await page.keyboard.press("t");
  await page.keyboard.press("7");
  await page
    .getByRole("button", { name: /Correct: tried at a full hand.*leans/ })
    .click();
  await page.keyboard.press("3");
  await expect(
    page.getByRole("button", { name: /Correct: tried at an egg/ }),
  ).toBeVisible();
  await page.getByRole("button", { name: "Take this rep out" }).click();
  await expect(page.getByText("0 reps")).toBeVisible();
  await askByKeys(page, { side: "right", outcome: "gave", weight: "egg" });
  await expect(page.getByText("1 rep, all sent")).toBeVisible();
  await page.keyboard.press("u");
  await expect(page.getByText("0 reps")).toBeVisible();
});

test("rung, side and gait change, and one pad stands for both reins", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Switch");
  await ride(page, "Switch");
  await page.getByRole("button", { name: "jog", exact: true }).click();
  await askByKeys(page, { side: "left", outcome: "gave", weight: "egg" });
  await page.getByLabel("Rung").selectOption("S6");
  await expect(padOf(page, "both")).toBeVisible();
  await askByKeys(page, { side: "both", outcome: "gave", weight: "egg" });
  await expect(page.getByText("2 reps, all sent")).toBeVisible();
  await page.getByRole("button", { name: "Leave" }).click();
  await page
    .getByRole("link", { name: "Ride Switch" })
    .or(
      page.getByRole("main").getByRole("link", { name: "Switch", exact: true }),
    )
    .first()
    .click();
  await expect(page.getByRole("heading", { name: "Switch" })).toBeVisible();
});

test("two asks in a row wait for their outcomes one after the other", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "Quick");
  await ride(page, "Quick");
  for (const key of ["f", "j"]) {
    await page.keyboard.down(key);
    await page.waitForTimeout(250);
    await page.keyboard.up(key);
  }
  await expect(page.getByText("1 more to tell")).toBeVisible();
  for (const key of ["g", "3", "g", "4"]) await page.keyboard.press(key);
  await expect(page.getByText("2 reps, all sent")).toBeVisible();
  await expect(page.getByRole("group", { name: "Reps right" })).toContainText(
    "gave 1 of 1",
  );
});

test("a session that runs out in the middle of a ride loses nothing", async ({
  page,
  context,
}) => {
  await walkIn(page);
  await newHorse(page, "Lapse");
  await ride(page, "Lapse");
  await askByKeys(page, { side: "left", outcome: "gave", weight: "egg" });
  await expect(page.getByText("1 rep, all sent")).toBeVisible();
  await context.clearCookies();
  // Nothing comes in the way of the reps: signing in waits until it is asked for.
  await askByKeys(page, { side: "left", outcome: "gave", weight: "lemon" });
  await page.getByRole("button", { name: "Sign in" }).click();
  const dialog = page.getByRole("dialog", { name: "Signed out meanwhile" });
  await dialog.getByRole("button", { name: "Trainer" }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByText("2 reps, all sent")).toBeVisible();
  await page.reload();
  await expect(page.getByText("2 reps, all sent")).toBeVisible();
  // The set goes on where it was.
  await askByKeys(page, { side: "left", outcome: "gave", weight: "lemon" });
  await expect(page.getByText("3 reps, all sent")).toBeVisible();
  await expect(page.getByText("Couldn't save")).toBeHidden();
});

test("reps logged without a network are kept on the device and sent once", async ({
  page,
  context,
}) => {
  await walkIn(page);
  await newHorse(page, "Far Field");
  await ride(page, "Far Field");
  await askByKeys(page, { side: "left", outcome: "gave", weight: "egg" });
  await expect(page.getByText("1 rep, all sent")).toBeVisible();
  await context.setOffline(true);
  for (let n = 0; n < 3; n++)
    await askByKeys(page, {
      side: "right",
      outcome: "gave",
      weight: "egg",
      ms: 200,
    });
  await expect(page.getByText("4 reps, 3 to send")).toBeVisible();
  await context.setOffline(false);
  await expect(page.getByText("4 reps, all sent")).toBeVisible();
  await page.reload();
  await expect(page.getByText("4 reps, all sent")).toBeVisible();
});

test("a ride is entered afterwards with the keyboard alone, in under a minute", async ({
  page,
}) => {
  await walkIn(page);
  await newHorse(page, "From Memory");
  await page.getByRole("link", { name: "Ridden already" }).focus();
  const from = Date.now();
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Ridden on")).toBeFocused();
  const tabTo = async (label) => {
    for (let n = 0; n < 20; n++) {
      if (
        await page
          .getByLabel(label, { exact: true })
          .evaluate((el) => el === document.activeElement)
      )
        return;
      await page.keyboard.press("Tab");
    }
    throw new Error(`${label} was not reached`);
  };
  const set = async (n, gave, tried, seconds) => {
    await tabTo(`gave, set ${n}`);
    await page.keyboard.type(gave);
    await page.keyboard.press("Tab");
    await page.keyboard.type(tried);
    await tabTo(`Seconds, set ${n}`);
    await page.keyboard.type(seconds);
  };
  await tabTo("Note for tomorrow");
  await page.keyboard.type("Quiet hands");
  await set(1, "6", "2", "-1");
  await page.keyboard.press("Enter");
  await set(2, "7", "1", "1.2");
  await page.keyboard.press("Control+Enter");
  await expect(
    page.getByText("is not a time from ask to give").first(),
  ).toBeVisible();
  await expect(page.getByLabel("gave, set 2")).toHaveValue("7");
  await page.getByLabel("Seconds, set 1").focus();
  await page.keyboard.press("Control+A");
  await page.keyboard.type("1.4");
  await page.keyboard.press("Control+Enter");
  await expect(page.locator("[data-call='G7@walk']")).toContainText(
    "1 of 3 days so far",
  );
  expect(Date.now() - from).toBeLessThan(60_000);
  await expect(page.getByText("Quiet hands")).toBeVisible();
});
