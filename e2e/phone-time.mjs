// How long a mid phone (its processor slowed four times) takes until Today's first ride is painted, on a running server with a large barn
// (see server/benches/pages.rs), opened for the first time and again:
//   BASE=http://127.0.0.1:8020 node phone-time.mjs
import { chromium } from "@playwright/test";

const base = process.env.BASE ?? "http://127.0.0.1:8020";
const TIMES = Number(process.env.TIMES ?? 9);
const SLOWED = Number(process.env.SLOWED ?? 4);
const middle = (times) =>
  `${times.sort((a, b) => a - b)[times.length >> 1].toFixed(0)} ms median, ${times[0].toFixed(0)} to ${times.at(-1).toFixed(0)} of ${times.length}`;

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: ["--no-sandbox"],
});

/** Milliseconds from the start of the navigation until the first ride is painted. */
async function firstRide(context) {
  const page = await context.newPage();
  const devtools = await context.newCDPSession(page);
  await devtools.send("Emulation.setCPUThrottlingRate", { rate: SLOWED });
  await page.addInitScript(() => {
    const look = () => {
      if (document.querySelector('[aria-label="Rides"] a'))
        requestAnimationFrame(() => (window.painted = performance.now()));
      else requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  });
  await page.goto(base, { waitUntil: "commit" });
  const painted = await page.waitForFunction(() => window.painted);
  const took = await painted.jsonValue();
  // What goes on behind it is no part of the next.
  await page.waitForTimeout(4_000);
  await page.close();
  return took;
}

const [cold, warm] = [[], []];
for (let n = 0; n < TIMES; n++) {
  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    isMobile: true,
  });
  const signIn = await context.request.post(`${base}/api/demo-sign-in`, {
    data: { role: "trainer" },
  });
  if (!signIn.ok()) throw new Error(`signing in gives ${signIn.status()}`);
  cold.push(await firstRide(context));
  warm.push(await firstRide(context));
  await context.close();
}
console.log(`Today, for the first time: ${middle(cold)}`);
console.log(`Today, again: ${middle(warm)}`);
await browser.close();
