import type { QueryClient, QueryKey } from "@tanstack/react-query";
import { Refused, type Schemas } from "../api/client";
import {
  curriculum,
  curriculumOf,
  horseGear,
  people,
  plan,
  patternToday,
  ride,
  rideCattle,
  rideExercises,
  rideTack,
  setUps,
  standing,
  today,
  week,
  wholeDay,
} from "../api/queries";
import { forgetMounted } from "./mounted";
import { deviceOwner, setDeviceOwner } from "./owner";

/** What the device's helper keeps of the day. */
const DAY = "cavesson-day";

/** Lets the device's helper in, where the browser has one: pages opened without TLS on another machine have none. */
export function letHelperIn() {
  if ("serviceWorker" in navigator && import.meta.env.PROD)
    navigator.serviceWorker.register("/worker.js").catch(() => undefined);
}

/** What was kept of the day belongs to one person: it goes when another signs in, or this one out. */
export async function keepFor(person: string | null) {
  const before = deviceOwner();
  if (before !== person) {
    setDeviceOwner(person);
    if (before) await forgetDay();
  }
}

async function forgetDay() {
  forgetMounted();
  if ("caches" in window) await caches.delete(DAY);
}

/** How often is looked, and how long after the last touch: what the rider asks for does not wait behind the day. */
const BREATH_MS = 150;
const AFTER_TOUCH_MS = 1_000;
/** Whoever never stops touching gets the day all the same. */
const LONGEST_MS = 5_000;

let touched = -Infinity;
for (const kind of ["pointerdown", "click", "keydown"])
  window.addEventListener(kind, () => (touched = performance.now()), { capture: true, passive: true });

/** Waits until nothing is being fetched, and, for what takes longer, until nothing was touched for a moment. */
export async function quiet(client: QueryClient, untouched: boolean) {
  const since = performance.now();
  const busy = () => client.isFetching() > 0 || (untouched && performance.now() - touched < AFTER_TOUCH_MS);
  do await new Promise((done) => setTimeout(done, BREATH_MS));
  while (busy() && performance.now() - since < LONGEST_MS);
}

/** Fetches what today's rides need, so that it is on the device when the network goes: all of it in one response. */
export async function bringTheDay(client: QueryClient) {
  const { date } = await client.fetchQuery(today);
  // The page comes first, and whoever is busy with it.
  await quiet(client, false);
  await Promise.all([
    client.prefetchQuery(curriculum),
    client.prefetchQuery(people()),
    client.prefetchQuery(week(date)),
    client.prefetchQuery(setUps),
  ]);
  await quiet(client, true);
  const asked = Date.now();
  const day = await client.fetchQuery(wholeDay);
  // What the page has been given meanwhile is newer, on the device too.
  const kept = day.rides
    .flatMap((it) => responsesOf(it, day.curricula))
    .filter(([key]) => (client.getQueryState(key)?.dataUpdatedAt ?? 0) < asked);
  for (const [key, , body] of kept)
    if (client.getQueryData(key) === undefined) client.setQueryData(key, body);
  await keepOnDevice(kept);
}

/** What a page asks for, the address it asks at, and the response. */
type PageResponse = [QueryKey, string, unknown];

/** The responses that a ride's page asks for. */
function responsesOf(it: Schemas["DayRide"], curricula: Schemas["DayCurriculum"][]): PageResponse[] {
  const { id, horse_id: horse } = it.ride;
  const own = curricula.find(({ horses }) => horses.includes(horse));
  const all: (PageResponse | null)[] = [
    [ride(id).queryKey, `/api/rides/${id}`, it.ride],
    [plan(id).queryKey, `/api/rides/${id}/plan`, it.plan],
    [rideTack(id).queryKey, `/api/rides/${id}/tack`, it.tack],
    [rideExercises(id).queryKey, `/api/rides/${id}/exercises`, it.exercises],
    [standing(horse).queryKey, `/api/horses/${horse}/standing`, it.standing],
    [horseGear(horse).queryKey, `/api/horses/${horse}/gear`, it.gear],
    // The barn may have changed it for this horse alone, and Ride asks for this one.
    own ? [curriculumOf(horse).queryKey, `/api/curriculum?horse=${horse}`, own.curriculum] : null,
    it.cattle ? [rideCattle(id).queryKey, `/api/rides/${id}/cattle`, it.cattle] : null,
    it.pattern ? [patternToday(horse).queryKey, `/api/horses/${horse}/pattern-today`, it.pattern] : null,
  ];
  return all.filter((one) => one !== null);
}

/** Keeps responses where the device's helper looks for them, as if each had been asked for by itself. */
async function keepOnDevice(responses: PageResponse[]) {
  if (!("caches" in window)) return;
  try {
    const cache = await caches.open(DAY);
    const headers = { "content-type": "application/json", date: new Date().toUTCString() };
    for (const [, address, body] of responses)
      await cache.put(address, new Response(JSON.stringify(body), { headers }));
  } catch {
    // A full device keeps no day, and the ride goes on with the network.
  }
}

/** The response to a request that the device's helper does not keep by itself, since it is more than an address: as it comes from the server,
 * else as it was kept here under a name. */
export async function freshElseKept<T>(name: string, fetched: () => Promise<T>): Promise<T> {
  const address = `/kept/${name}`;
  try {
    const body = await fetched();
    await keepOnDevice([[[], address, body]]);
    return body;
  } catch (error) {
    // What the server refuses is refused, whatever is kept.
    if (error instanceof Refused || !("caches" in window)) throw error;
    const kept = await caches.match(address);
    if (!kept) throw error;
    return (await kept.json()) as T;
  }
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
