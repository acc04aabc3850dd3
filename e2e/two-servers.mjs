// Writes through a proxy in front of two servers, and reads after each write from both: what one took the other shows at once.
//   BASE=… ONE=… OTHER=… KILL=pid PSQL=… DATABASE=… node two-servers.mjs REPS
import { execFileSync } from "node:child_process";
import { newRide, rep, visitor } from "./visitor.mjs";

const { BASE, ONE, OTHER, KILL, PSQL, DATABASE } = process.env;
const reps = Number(process.argv[2] ?? 200);

function hold(what, is, should) {
  const [a, b] = [JSON.stringify(is), JSON.stringify(should)];
  if (a !== b) throw new Error(`${what}: ${a}, and not ${b}`);
}

const trainer = visitor(BASE);
await trainer.call("POST", "/api/demo-sign-in", { role: "trainer" });
const me = await trainer.learn();
const { horse, ride } = await newRide(trainer, me, `Two ${Date.now()}`);
const set = crypto.randomUUID();
/** A change of the curriculum on one server is known to the other. */
async function changesAreKnown() {
  const shown = async (base) =>
    JSON.stringify(await trainer.read("/api/curriculum", base));
  const before = await shown(OTHER);
  const made = await trainer.call(
    "PUT",
    `/api/curriculum/changes/${crypto.randomUUID()}`,
    {
      horse_id: null,
      change: {
        kind: "standard",
        rung: "T2",
        standard: { share: 90, weight: "egg", seconds: 1.5, days: 4 },
      },
    },
    ONE,
  );
  if (made.status !== 201) throw new Error(`the change gives ${made.status}`);
  const after = await shown(OTHER);
  if (after === before) throw new Error("the other server does not know it");
  hold("the curriculum", after, await shown(ONE));
}
const sql = (text) =>
  execFileSync(PSQL, [DATABASE, "-XqtA", "-c", text], { encoding: "utf8" });

/** What each server works out by itself, from snapshots of its own, is the same to the last digit: neither finds what the other kept. */
async function bothComeToTheSame() {
  const today = await trainer.read("/api/today", ONE);
  const rides = today.rides.map(({ ride }) => ride);
  const open = rides.filter(({ state }) => state !== "closed").slice(0, 5);
  if (open.length < 5) throw new Error(`the demo has ${open.length} rides`);
  for (const it of open) {
    const path = `/api/rides/${it.id}/reps/${crypto.randomUUID()}`;
    const answer = await trainer.call(
      "PUT",
      path,
      rep(crypto.randomUUID(), 0),
      ONE,
    );
    if (answer.status !== 201)
      throw new Error(`a rep gives ${answer.status}: ${await answer.text()}`);
    const told = [];
    for (const base of [ONE, OTHER]) {
      sql("truncate standing");
      const path = `/api/horses/${it.horse_id}/standing`;
      told.push(await trainer.read(path, base));
      const kept = `select count(*) from standing where horse_id = '${it.horse_id}'`;
      hold("standings that a server worked out itself", sql(kept).trim(), "1");
    }
    hold(`the standing of ${it.horse_name} on both`, told[1], told[0]);
  }
}
let killed = false;
const sides = () => (killed ? [ONE, BASE] : [ONE, OTHER]);
const times = [];
for (let n = 0; n < reps; n++) {
  if (n === Math.floor(reps / 2)) {
    process.kill(Number(KILL), "SIGKILL");
    killed = true;
  }
  const since = performance.now();
  const id = crypto.randomUUID();
  const answer = await trainer.call(
    "PUT",
    `/api/rides/${ride}/reps/${id}`,
    rep(set, n),
  );
  times.push(performance.now() - since);
  if (![200, 201].includes(answer.status))
    throw new Error(`rep ${n} gives ${answer.status}: ${await answer.text()}`);
  if (n % 10 !== 9) continue;
  if (n === 19) await changesAreKnown();
  if (n === 29) await bothComeToTheSame();
  const standings = await Promise.all(
    sides().map((base) => trainer.read(`/api/horses/${horse}/standing`, base)),
  );
  hold(
    `after ${n + 1} reps the servers say the same`,
    standings[0],
    standings[1],
  );
  const rides = await Promise.all(
    sides().map((base) => trainer.read(`/api/rides/${ride}`, base)),
  );
  for (const r of rides) hold("reps on the ride", r.sets[0].reps.length, n + 1);
}
// Wrong passwords are counted over both.
const statuses = [];
for (let n = 0; n < 7; n++) {
  const stranger = visitor(BASE);
  const answer = await stranger.call("POST", "/api/sign-in", {
    email: "nobody@two.example",
    password: "guess after guess",
  });
  statuses.push(answer.status);
}
hold("guesses", statuses, [401, 401, 401, 401, 401, 429, 429]);
times.sort((a, b) => a - b);
const at = (share) => times[Math.floor(share * (times.length - 1))].toFixed(0);
console.log(
  `${reps} reps through two servers, one killed after ${Math.floor(reps / 2)}: none lost, none twice; half in ${at(0.5)} ms, 99 % in ${at(0.99)} ms`,
);
