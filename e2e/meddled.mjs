// Logs reps by keys as the assistant while the network is cut, and while the ride is dropped and moved, the week published again and
// the assistant's role changed; the script that calls it kills the server and restarts the database meanwhile. At the end each rep is
// on the ride once, or was handed in, placed by the trainer, and is on it once.
//   BASE=http://127.0.0.1:8180 DATABASE_URL=postgres://… node meddled.mjs REPS
import { execFileSync } from "node:child_process";
import { chromium } from "@playwright/test";
import { getOnIfAsked, repsOnServer, send, walkIn } from "./tests/barn.mjs";
import { insist } from "./visitor.mjs";

const reps = Number(process.argv[2] ?? 1000);
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: ["--no-sandbox"],
});
const opened = async () =>
  (await browser.newContext({ baseURL: process.env.BASE })).newPage();
const [page, trainer] = [await opened(), await opened()];

const read = (path) =>
  insist(async () => {
    const answer = await trainer.request.get(path);
    if (!answer.ok()) throw new Error(`${path}: ${answer.status()}`);
    return answer.json();
  });
const write = (method, path, body) =>
  insist(async () => {
    const answer = await send(trainer, method, path, body);
    if (answer.status() >= 500) throw new Error(`${path}: ${answer.status()}`);
    return answer;
  });
/** A ride is put on a day as a week that is published moves it: under its id. */
const moveTo = (days) =>
  insist(async () =>
    execFileSync("psql", [
      process.env.DATABASE_URL,
      "-Xqc",
      `update ride set ridden_on = date '${me.today}' + ${days} where id = '${ride}'`,
    ]),
  );

await insist(() => walkIn(trainer));
await insist(() => walkIn(page, "Assistant"));
const me = await insist(async () => (await page.request.get("/api/me")).json());
const [horse, ride] = [crypto.randomUUID(), crypto.randomUUID()];
await write("PUT", `/api/horses/${horse}`, { name: `Meddled ${Date.now()}` });
await write("PUT", `/api/rides/${ride}`, {
  horse_id: horse,
  rider_id: me.id,
  date: me.today,
  place: "arena",
  entered: "pen",
});
await insist(async () => {
  await page.goto(`/ride/${ride}`);
  await getOnIfAsked(page, page.getByText("0 reps"));
});
// Dropped after the device has read it: the first rep brings it back.
await write("DELETE", `/api/rides/${ride}`);
console.log("READY");

const did = { cuts: 0, drops: 1, moves: 0, roles: 0, weeks: 0 };
let busy = true;
const cutting = (async () => {
  while (busy) {
    await page.waitForTimeout(400 + Math.random() * 2500);
    await page.context().setOffline(true);
    did.cuts++;
    await page.waitForTimeout(100 + Math.random() * 900);
    await page.context().setOffline(false);
  }
})();
const roleOf = async (role) => {
  const { name, email, version } = await read(`/api/people/${me.id}`);
  const body = { version, name, email, role };
  await write("PUT", `/api/people/${me.id}`, body);
};
const meddles = {
  weeks: async () => {
    const { version } = await read(`/api/weeks/${me.today}`);
    return write("POST", `/api/weeks/${me.today}/publish`, { version });
  },
  drops: () => write("DELETE", `/api/rides/${ride}`),
  moves: async () => {
    await moveTo(1);
    await trainer.waitForTimeout(900);
    await moveTo(0);
  },
  roles: async () => {
    await roleOf("owner");
    await trainer.waitForTimeout(900);
    await roleOf("assistant");
  },
};
const meddling = (async () => {
  for (let n = 0; busy; n++) {
    const what = Object.keys(meddles)[n % 4];
    const answer = await insist(meddles[what]);
    // A ride that was begun is not dropped: that is refused, and not counted.
    if (!answer || answer.ok()) did[what]++;
    else if (what !== "drops") console.log(what, await answer.text());
    await trainer.waitForTimeout(200 + Math.random() * 600);
  }
})();

const weights = ["1", "2", "3", "4", "5", "6", "7", "8"];
for (let n = 0; n < reps; n++) {
  const key = n % 2 ? "f" : "j";
  await page.keyboard.down(key);
  await page.keyboard.up(key);
  await page.keyboard.press(n % 7 ? "g" : "n");
  await page.keyboard.press(weights[n % 8]);
  if (n % 50 === 49) await page.waitForTimeout(700);
}
busy = false;
await Promise.all([cutting, meddling]);

// What the device was refused is handed in, and the trainer places all that waits.
let handedIn = 0;
let placed = 0;
let found = [];
for (let since = Date.now(); Date.now() - since < 90_000;) {
  await insist(() => page.goto("/"));
  await page.waitForTimeout(1200);
  const refused = page.getByRole("button", { name: "Hand in to be placed" });
  for (; (await refused.count()) > 0; handedIn++) await refused.first().click();
  const all = [];
  for (let more = true; more;) {
    const next = await read(`/api/unplaced?limit=200&offset=${all.length}`);
    all.push(...next.items);
    ({ more } = next);
  }
  const waiting = all.filter((u) => u.ride_id === ride);
  if (waiting.length > 0) {
    const ids = waiting.slice(0, 500).map((u) => u.id);
    const answer = await write("POST", "/api/unplaced/place", {
      ids,
      ride_id: ride,
    });
    if (!answer.ok()) throw new Error(`placing: ${await answer.text()}`);
    placed += (await answer.json()).placed;
  }
  const now = await insist(() => repsOnServer(trainer, ride));
  if (now.length > found.length) since = Date.now();
  found = now;
  const left = await page.evaluate(
    () =>
      Object.keys(localStorage).filter((k) => k.startsWith("cavesson.outbox"))
        .length,
  );
  if (found.length >= reps && left === 0) break;
}
const ids = new Set(found.map((r) => r.id));
await browser.close();
const times = Object.entries(did)
  .map(([what, n]) => `${n} ${what}`)
  .join(", ");
console.log(
  `${found.length} of ${reps} reps, ${ids.size} different, ${placed} of them placed by the trainer after ${handedIn} sets were handed in; ${times}`,
);
if (found.length !== reps || ids.size !== reps) process.exit(1);
