// Logs reps by keys in the real browser while its network is cut at random; the script that calls it kills the server and
// restarts the database meanwhile. At the end the server must have each rep once, in the order in which it was asked.
//   BASE=http://127.0.0.1:8180 node thousand.mjs REPS
import { chromium } from "@playwright/test";
import {
  getOn,
  newHorse,
  repsOnServer,
  WEIGHTS,
  walkIn,
} from "./tests/barn.mjs";
import { insist } from "./visitor.mjs";

const reps = Number(process.argv[2] ?? 1000);
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: ["--no-sandbox"],
});
const context = await browser.newContext({ baseURL: process.env.BASE });
const page = await context.newPage();

const name = `Thousand ${Date.now() % 100000}`;
await insist(async () => {
  await walkIn(page);
  await newHorse(page, name);
  await page.getByRole("button", { name: "Ride", exact: true }).click();
  await getOn(page);
  await page.getByText("0 reps").waitFor({ timeout: 5000 });
});
const ride = page.url().split("/ride/")[1];
console.log("READY");

let cuts = 0;
let busy = true;
const cutting = (async () => {
  while (busy) {
    await page.waitForTimeout(400 + Math.random() * 2500);
    await context.setOffline(true);
    cuts++;
    await page.waitForTimeout(100 + Math.random() * 900);
    await context.setOffline(false);
  }
})();
const weights = ["1", "2", "3", "4", "5", "6", "7", "8"];
for (let n = 0; n < reps; n++) {
  const key = n % 2 ? "f" : "j";
  await page.keyboard.down(key);
  await page.keyboard.up(key);
  await page.keyboard.press(n % 7 ? "g" : "n");
  await page.keyboard.press(weights[n % 8]);
}
const shown = await page.getByText(`${reps} reps`).count();
busy = false;
await cutting;
// As long as more arrive it only takes time; nothing more for two minutes is a loss.
const patience = 120_000;
let all = [];
for (let since = Date.now(); all.length < reps;) {
  const found = await insist(() => repsOnServer(page, ride));
  if (found.length > all.length) since = Date.now();
  all = found;
  if (Date.now() - since > patience) break;
  await page.waitForTimeout(500);
}
await page.waitForTimeout(1500);
const now = await insist(() => repsOnServer(page, ride));
const ids = new Set(now.map((r) => r.id));
const told = await insist(async () =>
  (await page.request.get(`/api/rides/${ride}`)).json(),
);
const inOrder = told.sets.every((set) =>
  set.reps.every((rep, at) => {
    const n = 2 * at + (set.side === "left" ? 1 : 0);
    const weight = WEIGHTS[n % WEIGHTS.length];
    return rep.weight === weight && rep.position === at;
  }),
);
await browser.close();
console.log(
  `${all.length} of ${reps} reps, ${ids.size} different, ${inOrder ? "in order" : "OUT OF ORDER"}, ${cuts} cuts`,
);
if (shown !== 1 || now.length !== reps || ids.size !== reps || !inOrder)
  process.exit(1);
