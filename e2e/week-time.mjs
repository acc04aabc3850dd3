// How long Week takes to open and a plan to show, on a running server with a large barn (see server/benches/pages.rs):
//   BASE=http://127.0.0.1:8020 node week-time.mjs
import { chromium } from "@playwright/test";

const base = process.env.BASE ?? "http://127.0.0.1:8020";
const TIMES = Number(process.env.TIMES ?? 9);
const middle = (times) =>
  `${times.sort((a, b) => a - b)[times.length >> 1].toFixed(0)} ms median, ${times.at(-1).toFixed(0)} ms slowest of ${times.length}`;

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: ["--no-sandbox"],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(base);
await page.getByRole("button", { name: "Trainer" }).click();
await page.getByRole("navigation", { name: "Pages" }).waitFor();

/** Milliseconds in the page from a click until something of the page is painted. */
const until = (click, seen) =>
  page.evaluate(
    ([click, seen]) =>
      new Promise((done) => {
        const began = performance.now();
        const look = () =>
          document.querySelector(seen)
            ? requestAnimationFrame(() => done(performance.now() - began))
            : requestAnimationFrame(look);
        [...document.querySelectorAll("a, button")]
          .find(
            (b) =>
              b.textContent.trim() === click ||
              b.getAttribute("aria-label") === click,
          )
          .click();
        look();
      }),
    [click, seen],
  );

const opened = [];
const shown = [];
for (let n = 0; n < TIMES; n++) {
  // Anew from Today each time, with nothing kept of the week.
  await page.goto(base);
  await page.getByRole("list", { name: "Rides" }).waitFor();
  await page.waitForTimeout(800);
  opened.push(await until("Week", '[aria-label="The week"]'));
  await page.getByRole("link", { name: "The week after" }).click();
  for (let week = 0; week < n; week++) {
    await page.waitForTimeout(300);
    await page.getByRole("link", { name: "The week after" }).click();
  }
  await page.getByRole("button", { name: "Plan the week" }).waitFor();
  await page.waitForTimeout(500);
  shown.push(await until("Plan the week", "[data-ride]"));
  await page
    .getByRole("button", { name: "Publish" })
    .waitFor({ timeout: 60_000 });
}
const rides = await page.locator("[data-ride]").count();
console.log(`Week opens: ${middle(opened)}`);
console.log(`A plan of ${rides} rides begins to show: ${middle(shown)}`);
await browser.close();
