// Holds many half-sent requests open while reps are logged, and tells how long those take and what the server needs of memory.
//   BASE=http://127.0.0.1:8020 PID=server node slow-clients.mjs [CLIENTS] [REPS]     against a server with the demo
import { readFileSync } from "node:fs";
import { connect } from "node:net";
import { newRide, rep, visitor } from "./visitor.mjs";

const { BASE, PID } = process.env;
const [clients, reps] = [
  Number(process.argv[2] ?? 500),
  Number(process.argv[3] ?? 400),
];
const { hostname, port } = new URL(BASE);
const who = visitor(BASE);
await who.call("POST", "/api/demo-sign-in", { role: "trainer" });
const { ride } = await newRide(who, await who.learn(), `Slow ${Date.now()}`);
const set = crypto.randomUUID();
const memory = () =>
  Math.round(
    Number(
      /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${PID}/status`, "utf8"))[1],
    ) / 1024,
  );
async function logged(from) {
  const times = [];
  for (let n = from; n < from + reps; n++) {
    const since = performance.now();
    const answer = await who.call(
      "PUT",
      `/api/rides/${ride}/reps/${crypto.randomUUID()}`,
      rep(set, n),
    );
    if (answer.status !== 201)
      throw new Error(`rep ${n} gives ${answer.status}`);
    times.push(performance.now() - since);
  }
  times.sort((a, b) => a - b);
  const at = (share) =>
    times[Math.floor(share * (times.length - 1))].toFixed(1);
  return `half in ${at(0.5)} ms, 99 % in ${at(0.99)} ms, ${memory()} MB`;
}
console.log(`alone: ${await logged(0)}`);
const sockets = Array.from({ length: clients }, (_, n) => {
  const socket = connect(Number(port), hostname);
  socket.on("error", () => undefined);
  // Half of them stop in the headers, half in the body.
  const head =
    "POST /api/sign-in HTTP/1.1\r\nHost: barn\r\nContent-Type: application/json\r\nContent-Length: 900000\r\n";
  socket.write(n % 2 ? head : `${head}\r\n{"email":"`);
  return socket;
});
await new Promise((done) => setTimeout(done, 500));
console.log(`beside ${clients} half-sent requests: ${await logged(reps)}`);
sockets.forEach((socket) => socket.destroy());
