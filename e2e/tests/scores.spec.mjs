// A run is scored by two people at once on their phones: neither sees what the other gives before the own sheet is done.
import { expect, test } from "@playwright/test";
import { walkIn } from "./barn.mjs";

const phone = { viewport: { width: 390, height: 844 }, hasTouch: true };

/** Taps a score for each part, and goes on. */
async function score(page, scores) {
  for (const [n, name] of scores.entries()) {
    await expect(
      page.getByText(`Part ${n + 1} of ${scores.length}`),
    ).toBeVisible();
    await page
      .getByRole("group", { name: "Score" })
      .getByRole("button", { name, exact: true })
      .tap();
    if (n + 1 < scores.length)
      await page.getByRole("button", { name: /^Next/ }).tap();
  }
}

test("two phones score one run", async ({ browser, page }) => {
  await walkIn(page, "Trainer");
  const all = await (await page.request.get("/api/horses?limit=200")).json();
  const { id } = all.items.find((horse) => horse.name === "Pilgrim");
  await page.goto(`/patterns?view=figures&figure=ready%200&horse=${id}`);
  await page.getByRole("button", { name: "Score a run" }).click();
  await expect(
    page.getByRole("heading", { level: 1, name: "Pilgrim" }),
  ).toBeVisible();
  const address = page.url();

  const theirs = await browser.newContext(phone);
  const other = await theirs.newPage();
  await walkIn(other, "Assistant");
  await other.goto(address);
  const mine = await browser.newContext(phone);
  const own = await mine.newPage();
  await walkIn(own, "Trainer");
  await own.goto(address);

  await score(own, ["+½", "−½", "0", "+1"]);
  // Half a point off for the last part, once by mistake twice.
  const half = own
    .getByRole("group", { name: "Penalty" })
    .getByRole("button", { name: "½", exact: true });
  await half.tap();
  await half.tap();
  await own.getByRole("button", { name: "Take back the last" }).tap();
  await expect(own.getByRole("status", { name: "Total so far" })).toHaveText(
    "70½",
  );

  await score(other, ["+½", "−1½", "0", "+½"]);
  // Without a signal nothing is lost: it is sent once there is one.
  await theirs.setOffline(true);
  await other.getByRole("button", { name: "Done" }).tap();
  await expect(other.getByText("Sending your score…")).toBeVisible();
  await own.getByRole("button", { name: "Done" }).tap();
  await expect(own.getByText("is still scoring.")).toBeVisible();
  await expect(own.getByRole("columnheader")).toHaveCount(2);
  await theirs.setOffline(false);

  await expect(own.getByRole("columnheader")).toHaveCount(3, {
    timeout: 20_000,
  });
  await expect(own.getByText("69½", { exact: true })).toBeVisible();
  await expect(
    own.getByRole("heading", { name: "Where the points went" }),
  ).toBeVisible();
  // The demo's runs that both scored count, too.
  await expect(
    own.getByText(/agree .*weighted kappa.*The same score \d+ of 16 times/),
  ).toBeVisible();
  await expect(other.getByRole("columnheader")).toHaveCount(3, {
    timeout: 20_000,
  });
  // The run is in the horse's list with both totals.
  await page.goto(`/patterns?view=figures&figure=ready%200&horse=${id}`);
  await expect(
    page
      .getByRole("region", { name: "Scored runs" })
      .getByRole("link", { name: /70½ and 69½|69½ and 70½/ }),
  ).toBeVisible();
  await theirs.close();
  await mine.close();
});
