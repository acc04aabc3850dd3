// Logs reps while the disk under the database is full, and counts what was acknowledged.
//   BASE=… DISK=folder node full-disk.mjs
import { execFileSync } from "node:child_process";
import { rmSync } from "node:fs";
import { newRide, rep, visitor } from "./visitor.mjs";

const { BASE, DISK } = process.env;
const ada = visitor(BASE);
await ada.call("POST", "/api/setup", {
  barn_name: "Low Meadow",
  time_zone: "UTC",
  name: "Ada",
  email: "ada@low.example",
  password: "gate hinge apple thunder",
});
const { ride } = await newRide(ada, await ada.learn(), "Juniper");
const set = crypto.randomUUID();
const acknowledged = [];
const statuses = {};
async function log(n) {
  const id = crypto.randomUUID();
  const answer = await ada.call(
    "PUT",
    `/api/rides/${ride}/reps/${id}`,
    rep(set, n),
  );
  statuses[answer.status] = (statuses[answer.status] ?? 0) + 1;
  if (answer.ok) acknowledged.push(id);
  else if (answer.status !== 503 || !answer.headers.get("retry-after"))
    throw new Error(`rep ${n} gives ${answer.status}: ${await answer.text()}`);
  return answer.status;
}
let n = 0;
for (; n < 50; n++) await log(n);
try {
  execFileSync("dd", ["if=/dev/zero", `of=${DISK}/filler`, "bs=64k"], {
    stdio: "ignore",
  });
} catch {
  // It ends where the disk does.
}
// The write-ahead log has some room of its own; until that is used up what is logged is kept.
let full = 0;
for (const end = Date.now() + 120_000; full < 20 && Date.now() < end; n++)
  if ((await log(n)) === 503) full++;
if (full < 20) throw new Error("the disk never was full");
const alive = (await fetch(`${BASE}/healthz`)).status;
rmSync(`${DISK}/filler`);
const since = Date.now();
while ((await log(n++)) !== 201) {
  if (Date.now() - since > 60_000)
    throw new Error("it did not go on by itself");
  await new Promise((done) => setTimeout(done, 500));
}
const back = ((Date.now() - since) / 1000).toFixed(1);
for (let more = 0; more < 50; more++) await log(n++);
const there = new Set(
  (await ada.read(`/api/rides/${ride}`)).sets.flatMap((s) =>
    s.reps.map((r) => r.id),
  ),
);
const lost = acknowledged.filter((id) => !there.has(id));
console.log(
  `${acknowledged.length} acknowledged, ${lost.length} lost, ${there.size} there; statuses ${JSON.stringify(statuses)}; alive ${alive}; went on ${back} s after there was room`,
);
if (lost.length > 0 || alive !== 200) process.exit(1);
