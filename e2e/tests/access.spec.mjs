// Every page, large and on a telephone: nothing serious that axe finds, and nothing over the edge.
import { expect, test } from "@playwright/test";
import axe from "axe-core";
import { newHorse, openHorse, ride, walkIn } from "./barn.mjs";

// Nothing here changes what the others look at.
test.describe.configure({ mode: "parallel" });

const serious = async (page) => {
  // What fades in is looked at once it is there.
  await expect(page.getByText(/^Fetching .*…$/)).toHaveCount(0);
  if (!(await page.evaluate(() => "axe" in window)))
    await page.evaluate(axe.source);
  const found = await page.evaluate(() =>
    window.axe.run(document, { resultTypes: ["violations"] }),
  );
  const bad = found.violations.filter((v) =>
    ["serious", "critical"].includes(v.impact),
  );
  expect(
    bad.map(
      (v) =>
        `${v.id}: ${v.nodes[0].html.slice(0, 200)} ${v.nodes[0].failureSummary ?? ""}`,
    ),
  ).toEqual([]);
};

const fits = async (page) => {
  const over = await page.evaluate(
    () => document.documentElement.scrollWidth - window.innerWidth,
  );
  expect(over).toBeLessThanOrEqual(0);
};

const main = (page) => page.getByRole("main");

/** Pages by themselves: address, and what stands there when it is whole. */
const barnPages = [
  [
    "/",
    (page) =>
      page
        .getByRole("list", { name: "Rides" })
        .getByRole("link", { name: /^Ride / })
        .first(),
  ],
  ["/horses", (page) => main(page).getByRole("link", { name: /^Wren/ })],
  ["/horses/owned", (page) => main(page).getByRole("img").first()],
  [
    "/barn/account",
    (page) => page.getByRole("heading", { name: "Signed in on" }),
  ],
  ["/barn/security", (page) => page.getByText("Signed in").first()],
  ["/barn", (page) => page.getByRole("button", { name: "Change Wren" })],
  [
    "/patterns?view=figures",
    (page) => page.getByRole("heading", { name: /What it asks of/ }),
  ],
  [
    "/patterns",
    (page) => page.getByRole("button", { name: /^Barrel 1 up close/ }),
  ],
  ["/cattle", (page) => page.getByRole("list", { name: "The herd" })],
  ["/cattle?view=draw", (page) => page.getByRole("combobox").first()],
  [
    "/cattle?view=fence",
    (page) => page.getByRole("heading", { name: "When the cow stops" }),
  ],
  [
    "/cattle?view=flag",
    (page) => page.getByRole("region", { name: "The line" }),
  ],
  [
    "/cattle?view=practice",
    (page) => page.getByRole("button", { name: "Begin (N)" }),
  ],
  ["/tack", (page) => page.getByRole("region", { name: "Old Copper" })],
  [
    "/tack?view=bench",
    (page) => page.getByRole("slider", { name: "Weight on each rein" }),
  ],
  ["/tack?view=horse", (page) => page.getByRole("list", { name: "Stages" })],
  ["/shorthand", (page) => page.getByRole("textbox", { name: "The text" })],
];
const bookPages = [
  ["/book", (page) => page.getByRole("button", { name: "Add a rung" })],
  ["/book/S1", (page) => page.getByRole("heading", { name: /Flexion/ })],
];
const weekPages = [
  [
    "/week",
    (page) => page.getByRole("heading", { level: 1, name: /^Week of/ }),
  ],
  [
    "/week/appointments",
    (page) => page.getByRole("button", { name: "Import a calendar" }),
  ],
  [
    "/week/balance",
    (page) => main(page).getByRole("link", { name: "Marlow" }).first(),
  ],
];

for (const [size, viewport] of [
  ["1280x800", { width: 1280, height: 800 }],
  ["390x844", { width: 390, height: 844 }],
]) {
  test.describe(size, () => {
    test.use({ viewport });
    for (const [what, pages] of [
      ["the barn's", barnPages],
      ["the Book's", bookPages],
      ["the week's", weekPages],
    ])
      test(`none of ${what} pages has a serious axe finding or runs over its edge at ${size}`, async ({
        page,
      }) => {
        await walkIn(page);
        for (const [address, whole] of pages) {
          await page.goto(address);
          await expect(whole(page)).toBeVisible();
          await serious(page);
          await fits(page);
        }
      });

    test(`nor has signing in, a horse, what opens over a page, or a ride from memory at ${size}`, async ({
      page,
    }) => {
      await page.goto("/");
      await expect(page.getByRole("button", { name: "Trainer" })).toBeVisible();
      await serious(page);
      await walkIn(page);
      await openHorse(page, "Marlow");
      await expect(page.locator("figure svg").first()).toBeVisible();
      await serious(page);
      await fits(page);
      await page.getByRole("link", { name: "Ridden already" }).click();
      await expect(page.getByLabel("gave, set 1")).toBeVisible();
      await serious(page);
      await fits(page);
      await page.goto("/barn");
      await page.getByRole("button", { name: "Change Wren" }).click();
      await expect(page.getByRole("dialog")).toBeVisible();
      await serious(page);
    });

    test(`nor has Ride in the two-rein, a first day in leverage, or the way down at ${size}`, async ({
      page,
    }) => {
      await walkIn(page);
      const today = await (await page.request.get("/api/today")).json();
      const open = async (horse) => {
        const of = today.rides.find((r) => r.ride.horse_name === horse);
        await page.goto(`/ride/${of.ride.id}`);
        await page.getByRole("button", { name: "Get on" }).click();
      };
      await open("Verbena");
      await expect(
        page.getByRole("slider", { name: "Share on the bridle rein" }),
      ).toBeVisible();
      await serious(page);
      await fits(page);
      const all = await (
        await page.request.get("/api/horses?limit=200")
      ).json();
      for (const name of ["Old Copper", "Saltlick"]) {
        const { id } = all.items.find((h) => h.name === name);
        await page.goto(`/tack?view=horse&horse=${id}`);
        await expect(page.getByRole("list", { name: "Stages" })).toBeVisible();
        await serious(page);
        await fits(page);
      }
    });

    test(`Ride fits, and its targets are large enough for gloves, at ${size}`, async ({
      page,
    }) => {
      await walkIn(page);
      await newHorse(page, `Gloves ${size}`);
      await ride(page, `Gloves ${size}`);
      await serious(page);
      await page.keyboard.down("f");
      await page.waitForTimeout(200);
      await page.keyboard.up("f");
      await expect(
        page.getByRole("group", { name: "What it came to" }),
      ).toBeVisible();
      await fits(page);
      await serious(page);
      const small = await page
        .locator("main button, main select")
        .evaluateAll((all) =>
          all
            .filter((b) => !b.getAttribute("aria-label")?.startsWith("Correct"))
            .map((b) => [b.textContent, b.getBoundingClientRect()])
            .filter(
              ([, r]) =>
                r.height < 56 ||
                (r.right > window.innerWidth + 0.5 && !r.width),
            )
            .map(([t]) => t),
        );
      expect(small).toEqual([]);
      await page.getByRole("button", { name: "Face for full sun" }).click();
      await serious(page);
      await page.getByRole("button", { name: "Face for shade" }).click();
    });
  });
}
