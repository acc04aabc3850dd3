import type { QueryClient } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import {
  curriculum,
  curriculumOf,
  horseGear,
  people,
  plan,
  patternToday,
  ride,
  rideCattle,
  rideTack,
  setUps,
  standing,
  today,
  week,
} from "../api/queries";

const OWNER = "cavesson.device.owner";

/** Lets the device's helper in, where the browser has one: pages opened without TLS on another machine have none. */
export function letHelperIn() {
  if ("serviceWorker" in navigator && import.meta.env.PROD)
    navigator.serviceWorker.register("/worker.js").catch(() => undefined);
}

/** What was kept of the day belongs to one person: it goes when another signs in, or this one out. */
export async function keepFor(person: string | null) {
  const before = read(OWNER);
  if (before !== person) {
    write(OWNER, person);
    if (before) await forgetDay();
  }
}

async function forgetDay() {
  if ("caches" in window) await caches.delete("cavesson-day");
}

/** Between two horses, and after the last touch: what the rider asks for does not wait behind the day. */
const BREATH_MS = 150;
const AFTER_TOUCH_MS = 1_000;
/** Whoever never stops touching gets the day all the same. */
const LONGEST_MS = 5_000;

let touched = -Infinity;
for (const kind of ["pointerdown", "click", "keydown"])
  window.addEventListener(kind, () => (touched = performance.now()), { capture: true, passive: true });

/** Waits until nothing is being fetched and nothing was touched for a moment. */
async function quiet(client: QueryClient) {
  const since = performance.now();
  const busy = () => client.isFetching() > 0 || performance.now() - touched < AFTER_TOUCH_MS;
  do await new Promise((done) => setTimeout(done, BREATH_MS));
  while (busy() && performance.now() - since < LONGEST_MS);
}

/** Fetches what today's rides need, so that it is on the device when the network goes. */
export async function bringTheDay(client: QueryClient) {
  const day = await client.fetchQuery(today);
  await Promise.all([
    client.prefetchQuery(curriculum),
    client.prefetchQuery(people()),
    client.prefetchQuery(week(day.date)),
    client.prefetchQuery(setUps),
  ]);
  for (const { ride: r } of day.rides.filter((entry) => entry.ride.state !== "closed")) {
    // One horse after the other: the day is not in a hurry, and the server has other work.
    await quiet(client);
    await Promise.all([
      client.prefetchQuery(ride(r.id)),
      client.prefetchQuery(plan(r.id)),
      client.prefetchQuery(rideTack(r.id)),
      client.prefetchQuery(standing(r.horse_id)),
      client.prefetchQuery(horseGear(r.horse_id)),
      // The barn may have changed it for this horse alone, and Ride asks for this one.
      client.prefetchQuery(curriculumOf(r.horse_id)),
    ]);
    if (plans(client, r, (rung) => rung.pattern)) await client.prefetchQuery(patternToday(r.horse_id));
    if (plans(client, r, (rung) => rung.cattle)) await client.prefetchQuery(rideCattle(r.id));
  }
}

/** Whether something is planned of a ride whose rung is of a kind. */
function plans(
  client: QueryClient,
  r: { id: string; horse_id: string },
  kind: (rung: Schemas["RungOut"]) => boolean,
): boolean {
  const taught = client.getQueryData(curriculumOf(r.horse_id).queryKey);
  const parts = client.getQueryData(plan(r.id).queryKey)?.parts ?? [];
  const rungs = new Set(taught?.rungs?.filter(kind).map((rung) => rung.id));
  const steps = new Set(taught?.steps?.filter((step) => rungs.has(step.rung)).map((step) => step.id));
  return parts.some((part) => part.step && steps.has(part.step));
}

/** What about this device may cost reps: said before it does. */
export async function deviceWarnings(now: Date, server: Date | null): Promise<string[]> {
  const told: string[] = [];
  const off = server ? Math.round((now.getTime() - server.getTime()) / 60_000) : 0;
  if (Math.abs(off) >= 10) {
    const [n, unit] =
      Math.abs(off) >= 120 ? [Math.round(Math.abs(off) / 60), "hours"] : [Math.abs(off), "minutes"];
    told.push(
      `This device's clock is ${n} ${unit} ${off > 0 ? "ahead" : "behind"}. Rides are dated by the barn's day, so nothing is wrong with them; set the clock anyway.`,
    );
  }
  const room = await navigator.storage?.estimate?.().catch(() => undefined);
  if (room?.quota && room.usage !== undefined && room.quota - room.usage < 5_000_000)
    told.push("This device is nearly full. Reps may not be kept without the network; make room on it.");
  // A private window promises to forget: browsers give those far less room than others.
  if (room?.quota && room.quota < 200_000_000)
    told.push("This looks like a private window: reps that are not sent are gone when it is closed.");
  return told;
}

/** How safe what is kept on this device is, in words. */
export async function deviceSafety(): Promise<string> {
  if (!navigator.storage?.persisted)
    return "This browser does not say how long it keeps reps that are not sent.";
  return (await navigator.storage.persisted())
    ? "Reps that are not sent stay on this device until they are."
    : "Reps that are not sent stay on this device, but the browser may clear them if the device runs short of room.";
}

function read(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

function write(key: string, value: string | null) {
  try {
    if (value === null) localStorage.removeItem(key);
    else localStorage.setItem(key, value);
  } catch {
    // A device that keeps nothing has nothing to forget either.
  }
}
