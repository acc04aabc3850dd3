import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { Item } from "./outbox";

/** A device's storage, and a server that answers as it is told. */
const kept = new Map<string, string>();
let answers: (() => Promise<Response> | Response)[] = [];
const asked: string[] = [];

const problem = (status: number, detail: string) =>
  new Response(JSON.stringify({ type: "/problems/x", title: "x", status, detail }), {
    status,
    headers: { "content-type": "application/problem+json" },
  });
const created = () => new Response(null, { status: 201, headers: { "content-length": "0" } });
const cut = () => Promise.reject(new TypeError("network"));

const rep = (n: number): Item => ({
  kind: "log",
  ride: "ride",
  rep: `rep-${n}`,
  body: {
    set: { id: "set", position: 0, rung: "S1", gait: "stand", side: "left" },
    position: n,
    outcome: "gave",
    weight: "egg",
    seconds: 1,
    faults: [],
    missing: null,
  },
});

async function open() {
  vi.resetModules();
  return import("./outbox");
}
type Kept = { item: Item; refusal?: { why: string } };
const onDevice = () =>
  [...kept.keys()]
    .filter((key) => key.startsWith("cavesson.outbox.2.ada."))
    .sort()
    .map((key) => JSON.parse(kept.get(key) ?? "{}") as Kept);
const persist = vi.fn(() => Promise.resolve(true));
const waiting = () => onDevice().flatMap((k) => (k.refusal ? [] : [k.item]));
const hear = new Map<string, (event: { key: string }) => void>();

/** Storage as browsers have it: what is kept shows as keys of its own. */
const storage = (set: (key: string, value: string) => void) =>
  new Proxy(
    {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: set,
      removeItem: (key: string) => void kept.delete(key),
    },
    {
      ownKeys: () => [...kept.keys()],
      getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }),
    },
  );

beforeEach(() => {
  kept.clear();
  asked.length = 0;
  answers = [];
  vi.useFakeTimers();
  vi.stubGlobal(
    "localStorage",
    storage((key, value) => void kept.set(key, value)),
  );
  hear.clear();
  persist.mockClear();
  vi.stubGlobal("navigator", { storage: { persist } });
  vi.stubGlobal("window", {
    addEventListener: (kind: string, act: (event: { key: string }) => void) => void hear.set(kind, act),
  });
  // The client makes its requests from addresses relative to the page; here there is no page.
  const Real = Request;
  vi.stubGlobal(
    "Request",
    class extends Real {
      constructor(url: string, init?: RequestInit) {
        super(url.startsWith("/") ? `http://barn.example${url}` : url, init);
      }
    },
  );
  vi.stubGlobal("fetch", (request: Request) => {
    asked.push(request.url.split("/").at(-1) ?? "");
    return Promise.resolve((answers.shift() ?? created)());
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it("keeps an item on the device before it is sent, and forgets it when it is acknowledged", async () => {
  const box = await open();
  box.openOutbox("ada");
  box.put(rep(1));
  expect(persist, "the browser is asked to keep it").toHaveBeenCalledOnce();
  expect(waiting()).toHaveLength(1);
  await box.flush();
  expect(waiting()).toEqual([]);
  expect(asked).toEqual(["rep-1"]);
});

it("sends in order, stops at a cut network, and goes on from there by itself", async () => {
  const box = await open();
  box.openOutbox("ada");
  await box.flush();
  answers = [created, cut];
  for (const n of [1, 2, 3]) box.put(rep(n));
  await box.flush();
  expect(waiting().map((i) => i.rep)).toEqual(["rep-2", "rep-3"]);
  await vi.advanceTimersByTimeAsync(3100);
  await box.flush();
  expect(waiting()).toEqual([]);
  expect(asked).toEqual(["rep-1", "rep-2", "rep-2", "rep-3"]);
});

it("waits through a lost session, a failing server and a hurried one", async () => {
  for (const status of [401, 429, 500, 503]) {
    kept.clear();
    const box = await open();
    box.openOutbox("ada");
    await box.flush();
    answers = [() => problem(status, "not now")];
    box.put(rep(1));
    await box.flush();
    expect(waiting(), `after ${status}`).toHaveLength(1);
  }
});

it("sets aside what the server will never take, says why, sends the rest, and exports or discards it", async () => {
  for (const status of [404, 409, 422]) {
    kept.clear();
    asked.length = 0;
    const box = await open();
    box.openOutbox("ada");
    await box.flush();
    answers = [() => problem(status, "there is no rung")];
    box.put(rep(1));
    box.put(rep(2));
    await box.flush();
    expect(asked, `after ${status}`).toEqual(["rep-1", "rep-2"]);
    expect(onDevice().map((k) => k.refusal?.why)).toEqual(["there is no rung"]);
    const rows = JSON.parse(await box.exported().text()) as { why: string; rep: string }[];
    expect(rows).toMatchObject([{ why: "there is no rung", rep: "rep-1", body: { outcome: "gave" } }]);
    box.discard({ item: rep(1), why: "another" });
    expect(onDevice(), "only what is discarded goes").toHaveLength(1);
    const [refused] = box.refusedItems();
    if (refused) box.discard(refused);
    expect(onDevice()).toEqual([]);
  }
});

it("tells what the server set aside for a trainer to place, until it is read", async () => {
  const box = await open();
  box.openOutbox("ada");
  await box.flush();
  const aside = () => new Response(JSON.stringify({ to_be_placed: "this ride was moved" }), { status: 202 });
  answers = [aside, aside];
  box.put(rep(1));
  box.put(rep(2));
  await box.flush();
  expect(onDevice()).toEqual([]);
  expect(box.setAside()).toEqual({ n: 2, why: "this ride was moved" });
  box.asideIsRead();
  expect(box.setAside()).toBeNull();
});

it("puts refused asks on another ride, and has them on the device before they are forgotten", async () => {
  const box = await open();
  box.openOutbox("ada");
  await box.flush();
  answers = [() => problem(404, "no such ride")];
  box.put(rep(1));
  await box.flush();
  const [refused] = box.refusedItems();
  if (!refused) throw new Error("nothing was refused");
  answers = [cut];
  box.sendInstead([refused], [{ ...refused.item, ride: "another" } as Item]);
  expect(onDevice().map((k) => [k.item.ride, k.refusal])).toEqual([["another", undefined]]);
  await box.flush();
  await box.flush();
  expect(onDevice()).toEqual([]);
});

it("hands in what another person left on the device, in their name, and leaves the rest", async () => {
  const box = await open();
  box.openOutbox("bea");
  await box.flush();
  answers = [cut, cut, cut];
  box.put(rep(1));
  box.put({ kind: "check", ride: "ride", rep: "teeth", body: { side: "both", answer: "well" } });
  await box.flush();
  const again = await open();
  again.openOutbox("ada");
  await again.flush();
  const left = again.ofOthers();
  expect([...left].map(([person, items]) => [person, items.map((i) => i.kind)])).toEqual([
    ["bea", ["log", "check"]],
  ]);
  const sent = again.handIn({ item: rep(1), why: "kept here" }, "bea");
  expect(sent).toMatchObject({
    kind: "hand-in",
    rep: "rep-1",
    body: { kind: "rep", ride_id: "ride", person_id: "bea", why: "kept here", body: { outcome: "gave" } },
  });
  answers = [created, created, created];
  asked.length = 0;
  await again.handInFor("bea", left.get("bea") ?? []);
  expect(asked).toEqual(["rep-1"]);
  expect([...again.ofOthers()].map(([, items]) => items.map((i) => i.kind))).toEqual([["check"]]);
});

it("asks for this session's token once when it is not allowed, then sets aside what still is not", async () => {
  const box = await open();
  box.openOutbox("ada");
  await box.flush();
  const me = () => new Response(JSON.stringify({ csrf: "new" }), { status: 200 });
  answers = [() => problem(403, "another token"), me, created];
  box.put(rep(1));
  await box.flush();
  expect([waiting(), onDevice()]).toEqual([[], []]);
  answers = [() => problem(403, "owners only read"), me, () => problem(403, "owners only read"), created];
  box.put(rep(2));
  box.put(rep(3));
  await box.flush();
  expect(onDevice().map((k) => k.refusal?.why)).toEqual(["owners only read"]);
  expect(asked.slice(-1)).toEqual(["rep-3"]);
});

it("finds what was left by the page before, and only that of the same person", async () => {
  const before = await open();
  before.openOutbox("ada");
  await before.flush();
  answers = [cut, cut, cut];
  before.put(rep(7));
  await before.flush();
  const after = await open();
  after.openOutbox("bo");
  expect(after.waitingFor("ride")).toEqual([]);
  after.openOutbox("ada");
  expect(after.waitingFor("ride").map((i) => i.rep)).toEqual(["rep-7"]);
});

it("says so when the device cannot keep anything", async () => {
  const box = await open();
  box.openOutbox("ada");
  await box.flush();
  vi.stubGlobal(
    "localStorage",
    storage(() => {
      throw new DOMException("full", "QuotaExceededError");
    }),
  );
  answers = [cut];
  box.put(rep(1));
  expect(box.waitingFor("ride")).toHaveLength(1);
});

it("shares the device with another page of the same browser without treading on it", async () => {
  const one = await open();
  one.openOutbox("ada");
  await one.flush();
  answers = [cut, cut, cut, cut, cut];
  one.put(rep(1));
  await one.flush();
  const heard = hear.get("storage");
  const two = await open();
  two.openOutbox("ada");
  await two.flush();
  two.put(rep(2));
  await two.flush();
  expect(waiting().map((i) => i.rep)).toEqual(["rep-1", "rep-2"]);
  heard?.({ key: [...kept.keys()].sort().at(-1) ?? "" });
  expect(one.waitingFor("ride").map((i) => i.rep)).toEqual(["rep-1", "rep-2"]);
});

it("carries counts, checks and corrections in the order in which they were made", async () => {
  const box = await open();
  box.openOutbox("ada");
  await box.flush();
  box.put({ kind: "check", ride: "ride", rep: "tack", body: { side: "both", answer: "well", words: "" } });
  box.put({
    kind: "count",
    ride: "ride",
    rep: "set-1",
    body: {
      set: { id: "set-1", position: 0, rung: "R2", gait: "walk", side: "left" },
      count: { kind: "laps", laps: 2, soft: true },
    },
  });
  box.put({
    kind: "correct",
    ride: "ride",
    rep: "rep-1",
    body: { version: 1, outcome: "none", weight: "tug", removed: true },
  });
  await box.flush();
  expect(asked).toEqual(["tack", "set-1", "rep-1"]);
});
