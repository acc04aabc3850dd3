// Writes through a proxy in front of two servers, and reads after each write from both: what one took the other shows at once.
//   BASE=… ONE=… OTHER=… KILL=pid node two-servers.mjs REPS
const { BASE, ONE, OTHER, KILL } = process.env;
const reps = Number(process.argv[2] ?? 200);

/** A browser's cookie and token. */
function visitor() {
  let cookie = "";
  let token = "";
  const call = async (method, path, body, base = BASE) => {
    const answer = await fetch(base + path, {
      method,
      headers: {
        cookie,
        "x-csrf-token": token,
        ...(body && { "content-type": "application/json" }),
      },
      body: body && JSON.stringify(body),
    });
    for (const set of answer.headers.getSetCookie()) {
      const [pair] = set.split(";");
      const others = cookie
        .split("; ")
        .filter((c) => c && !c.startsWith(pair.split("=")[0]));
      cookie = [...others, pair].join("; ");
    }
    return answer;
  };
  const read = async (path, base = BASE) => {
    const answer = await call("GET", path, undefined, base);
    if (!answer.ok) throw new Error(`${path} gives ${answer.status}`);
    return answer.json();
  };
  const walkIn = async (role) => {
    await call("POST", "/api/demo-sign-in", { role });
    const me = await read("/api/me");
    token = me.csrf;
    return me;
  };
  return { call, read, walkIn };
}
function hold(what, is, should) {
  const [a, b] = [JSON.stringify(is), JSON.stringify(should)];
  if (a !== b) throw new Error(`${what}: ${a}, and not ${b}`);
}

const trainer = visitor();
const me = await trainer.walkIn("trainer");
const [horse, ride, set] = [0, 1, 2].map(() => crypto.randomUUID());
await trainer.call("PUT", `/api/horses/${horse}`, {
  name: `Two ${Date.now()}`,
});
await trainer.call("PUT", `/api/rides/${ride}`, {
  horse_id: horse,
  rider_id: me.id,
  date: me.today,
  place: "arena",
  entered: "pen",
});
let killed = false;
const sides = () => (killed ? [ONE, BASE] : [ONE, OTHER]);
const times = [];
for (let n = 0; n < reps; n++) {
  if (n === Math.floor(reps / 2)) {
    process.kill(Number(KILL), "SIGKILL");
    killed = true;
  }
  const since = performance.now();
  const answer = await trainer.call(
    "PUT",
    `/api/rides/${ride}/reps/${crypto.randomUUID()}`,
    {
      set: { id: set, position: 0, rung: "S1", gait: "stand", side: "left" },
      position: n,
      outcome: "gave",
      weight: "egg",
      seconds: 1,
    },
  );
  times.push(performance.now() - since);
  if (![200, 201].includes(answer.status))
    throw new Error(`rep ${n} gives ${answer.status}: ${await answer.text()}`);
  if (n % 10 !== 9) continue;
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
// A change of the curriculum on one is known to the other.
const shown = async (base) =>
  JSON.stringify(await trainer.read("/api/curriculum", base));
hold("the curriculum", await shown(sides()[0]), await shown(sides()[1]));

// Wrong passwords are counted over both.
const statuses = [];
for (let n = 0; n < 7; n++) {
  const stranger = visitor();
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
