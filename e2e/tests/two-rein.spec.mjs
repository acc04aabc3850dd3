// The two-rein from the saddle, by thumb on a phone, with no signal.
import { expect, test } from "@playwright/test";
import { getOn, newHorse, rideIdOf, send, walkIn } from "./barn.mjs";
import { bring } from "./no-signal.mjs";

test.use({
  serviceWorkers: "allow",
  hasTouch: true,
  viewport: { width: 390, height: 844 },
});

/** A thumb on the slider, at a share of its width. */
async function slide(page, share) {
  const slider = page.getByRole("slider", { name: "Share on the bridle rein" });
  await slider.scrollIntoViewIfNeeded();
  const box = await slider.boundingBox();
  // The thumb of the slider is 44 wide: its middle goes from one end to the other less that.
  const x = box.x + 22 + (share / 100) * (box.width - 44);
  await page.touchscreen.tap(x, box.y + box.height / 2);
}

test("shares are moved by thumb with no signal, with who asked, and arrive once", async ({
  page,
  context,
}) => {
  await walkIn(page);
  await newHorse(page, "Two Reins");
  const all = await (await page.request.get("/api/horses?limit=200")).json();
  const horse = all.items.find((h) => h.name === "Two Reins").id;
  const seen = { mouth_seen: "2026-01-05", teeth_seen: "2026-01-05" };
  const worn = [];
  for (const [kind, name, mouthpiece] of [
    ["bit", "Bridle", "leverage"],
    ["bosal", "Small bosal", "bitless"],
  ]) {
    const id = crypto.randomUUID();
    worn.push(id);
    const path = `/api/horses/${horse}/gear/${id}`;
    const body = { kind, name, mouthpiece, since: "2026-01-05", ...seen };
    expect((await send(page, "PUT", path, body)).status()).toBe(201);
  }
  await page.reload();
  await page.getByRole("button", { name: "Ride", exact: true }).click();
  await page.getByRole("button", { name: "Get on" }).waitFor();
  const id = rideIdOf(page);
  const put = (path, body) =>
    send(page, "PUT", `/api/rides/${id}${path}`, body);
  expect((await put("/gear", { gear: worn })).ok()).toBe(true);
  // What a first day in leverage must be answered before, so that the pads are open.
  const plan = await (await page.request.get(`/api/rides/${id}/plan`)).json();
  for (const check of plan.waits_for) {
    const sides = plan.checks.find((c) => c.id === check).sides;
    for (const side of sides.length > 0 ? sides : ["both"])
      expect(
        (await put(`/checks/${check}`, { side, answer: "well" })).ok(),
      ).toBe(true);
  }
  await bring(page, id);
  await context.setOffline(true);
  await page.close();

  const cold = await context.newPage();
  await cold.goto(`/ride/${id}`);
  await getOn(cold);
  const bar = cold.getByRole("region", { name: "The two-rein" });
  await expect(bar).toContainText("10 % bridle");
  await bar.getByRole("button", { name: "Begin at 10" }).tap();
  await bar.getByRole("button", { name: "Bears / Roots" }).tap();
  await slide(cold, 30);
  await expect(bar).toContainText("30 % bridle");
  await slide(cold, 20);
  await bar.getByRole("button", { name: "Tired / Scared" }).tap();
  await bar.getByRole("button", { name: "Tired" }).tap();
  await expect(bar.getByRole("button", { name: "Scared" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  // Closed and opened again, still without a network: nothing is gone.
  await cold.reload();
  await expect(bar).toContainText("20 % bridle");
  await context.setOffline(false);
  const kept = async () => {
    const told = await cold.request.get(`/api/horses/${horse}/two-rein`);
    return (await told.json()).rides.map((r) => [
      r.begins,
      r.moves.map((m) => [m.bridle, m.asked]),
    ]);
  };
  await expect.poll(kept, { timeout: 60_000 }).toEqual([
    [
      10,
      [
        [30, "bears"],
        [20, "scared"],
      ],
    ],
  ]);
});
