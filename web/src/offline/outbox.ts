import { useSyncExternalStore } from "react";
import { api, ask, Refused, setToken, type Problem, type Schemas } from "../api/client";
import { newId } from "../parts/ids";
import type { LogKind, Logged } from "../parts/ride-log";

/** One thing to send, in the order in which it was done. Ids are made here, so sending twice is harmless. */
export type Item =
  | { kind: "log"; ride: string; rep: string; body: Schemas["RepIn"] }
  | { kind: "count"; ride: string; rep: string; body: Schemas["CountIn"] }
  | { kind: "correct"; ride: string; rep: string; body: Schemas["CorrectionIn"] }
  | { kind: "correct-count"; ride: string; rep: string; body: Schemas["CountCorrectionIn"] }
  | { kind: "check"; ride: string; rep: string; body: Schemas["CheckIn"] }
  /** Something about the tack, on cattle or of an exercise on a ride. */
  | EventItem<"tack">
  | EventItem<"cattle">
  | EventItem<"exercise">
  | { kind: "hand-in"; ride: string; rep: string; body: Schemas["UnplacedIn"] }
  /** A pass over a pattern, of a ride or of none. */
  | { kind: "pass"; ride: string | null; rep: string; horse: string; body: Schemas["PassIn"] }
  /** The own sheet for a scored run, by the id of the run. */
  | { kind: "sheet"; ride: null; rep: string; body: Schemas["SheetIn"] };

/** An event of a ride. */
export type EventItem<K extends LogKind> = { kind: K; ride: string; rep: string; body: Logged[K] };

/** Something the server will never take: set aside until someone exports or discards it, with the thing as it is now where that is why. */
export type Refusal = { item: Item; why: string; now?: unknown };

/** What the server took and set aside for a trainer to place: how many, and why the last of them. */
type SetAside = { n: number; why: string };
type State = { waiting: Item[]; refused: Refusal[]; error: string | null; aside: SetAside | null };
type Kept = { item: Item; refusal?: Omit<Refusal, "item"> };

// Each item has a place of its own on the device: two pages of one browser add and take away without treading on each other.
const KEY = "cavesson.outbox.2";
const FULL =
  "This device cannot keep reps: it is full, or a private window. Do not close the page before they are sent.";
let owner = "";
let state: State = { waiting: [], refused: [], error: null, aside: null };
let sending: Promise<void> | null = null;
/** How long to wait before trying again: soon at first, then longer, while nothing goes through. */
const SOON = 300;
const LATE = 3_000;
let wait = SOON;
let retry: ReturnType<typeof setTimeout> | undefined;
let last = 0;
const places = new Map<Item, string>();
const listeners = new Set<() => void>();
/** Items that were sent again under a new token. */
const renewed = new WeakSet<Item>();

function tell(next: State) {
  state = next;
  listeners.forEach((hear) => hear());
}

/** A place behind all others of this person, in the order of the clock and, within it, of the asks. */
function nextPlace(): string {
  last = Math.max(Date.now(), last + 1);
  return `${KEY}.${owner}.${String(last).padStart(15, "0")}.${newId().slice(0, 8)}`;
}

/** Writes an item to the device. False where it cannot be kept. */
function write(item: Item, refusal?: Kept["refusal"]): boolean {
  const place = places.get(item) ?? nextPlace();
  places.set(item, place);
  try {
    localStorage.setItem(place, JSON.stringify({ item, refusal } satisfies Kept));
    return true;
  } catch {
    return false;
  }
}

function forget(item: Item) {
  const place = places.get(item);
  places.delete(item);
  try {
    if (place) localStorage.removeItem(place);
  } catch {
    // What cannot be taken away is sent again, which is harmless.
  }
}

/** Where something is kept on this device, in order. */
function placesOf(whose: string): string[] {
  try {
    return Object.keys(localStorage)
      .filter((key) => key.startsWith(`${KEY}.${whose}`))
      .sort();
  } catch {
    // A device that keeps nothing: what waits is in this page alone.
    return [];
  }
}

/** Reads what is kept of this person, in order, with what other pages put there. */
function readKept(): Pick<State, "waiting" | "refused"> {
  const known = new Map([...places].map(([item, place]) => [place, item]));
  const waiting: Item[] = [];
  const refused: Refusal[] = [];
  for (const place of placesOf(`${owner}.`)) {
    // What comes next goes behind all of it, also where the clock was set back meanwhile.
    last = Math.max(last, Number(place.split(".").at(-2)) || 0);
    const read = parse(localStorage.getItem(place));
    if (!read) continue;
    const item = known.get(place) ?? read.item;
    places.set(item, place);
    known.delete(place);
    if (read.refusal) refused.push({ item, ...read.refusal });
    else waiting.push(item);
  }
  return { waiting, refused };
}

function parse(text: string | null): Kept | null {
  try {
    return text ? (JSON.parse(text) as Kept) : null;
  } catch {
    return null;
  }
}

/** Opens the outbox of a person; what was not sent before is still in it. */
export function openOutbox(person: string) {
  if (owner !== person) {
    owner = person;
    places.clear();
    tell({ ...readKept(), error: null, aside: null });
  }
  void flush();
}

let askedToPersist = false;
/** Asks the browser once not to clear what is kept here when it runs short of room. */
function askToPersist() {
  if (askedToPersist) return;
  askedToPersist = true;
  void navigator.storage?.persist?.().catch(() => undefined);
}

/** Keeps an item on the device, then sends it as soon as that works. */
export function put(item: Item) {
  askToPersist();
  const safe = write(item);
  tell({ ...state, waiting: [...state.waiting, item], error: safe ? state.error : FULL });
  void flush();
}

/** Sends what waits, in order. Stops at the first that cannot be sent now, and tries again a little later. */
export function flush(): Promise<void> {
  clearTimeout(retry);
  sending ??= sendAll().then((all) => {
    sending = null;
    // Something may have been put in after the last look and before this.
    return all && state.waiting.length > 0 ? flush() : undefined;
  });
  return sending;
}

/** Whether everything that waited was dealt with. */
async function sendAll(): Promise<boolean> {
  for (let item = state.waiting[0]; item; item = state.waiting[0]) {
    const now: Item = item;
    const others = () => state.waiting.filter((i) => i !== now);
    try {
      const answer = (await send(now)) as Partial<Schemas["SetAside"]> | undefined;
      wait = SOON;
      forget(now);
      const why = answer?.to_be_placed;
      const aside = why ? { n: (state.aside?.n ?? 0) + 1, why } : state.aside;
      tell({ ...state, waiting: others(), error: null, aside });
    } catch (error) {
      if (error instanceof Refused && error.problem.status === 403 && !renewed.has(now)) {
        renewed.add(now);
        await renewToken().catch(() => undefined);
        continue;
      }
      if (isFinal(error)) {
        const refusal = { why: error.message, now: (error.problem as Problem).current };
        write(now, refusal);
        tell({ ...state, waiting: others(), refused: [...state.refused, { item: now, ...refusal }] });
        continue;
      }
      const why = error instanceof Error ? error.message : "Not sent yet";
      tell({ ...state, error: state.error === FULL ? FULL : why });
      retry = setTimeout(() => void flush(), wait);
      wait = Math.min(LATE, 2 * wait);
      return false;
    }
  }
  return true;
}

/** Whether sending the same again cannot help: it is set aside, so that what stands behind it is sent. */
function isFinal(error: unknown): error is Refused {
  return error instanceof Refused && ![401, 429].includes(error.problem.status) && error.problem.status < 500;
}

/** Another page of this browser may have signed in again: then this page's token is old, and only that is why it was refused. */
async function renewToken(): Promise<void> {
  setToken((await ask(api.GET("/api/me"))).csrf);
}

function send(item: Item): Promise<unknown> {
  const { rep } = item;
  if (item.kind === "pass") {
    const path = { horse: item.horse, id: rep };
    return ask(api.PUT("/api/horses/{horse}/passes/{id}", { params: { path }, body: item.body }));
  }
  if (item.kind === "sheet")
    return ask(api.PUT("/api/scored-runs/{id}/sheet", { params: { path: { id: rep } }, body: item.body }));
  const { ride } = item;
  switch (item.kind) {
    case "log":
      return ask(
        api.PUT("/api/rides/{ride}/reps/{rep}", { params: { path: { ride, rep } }, body: item.body }),
      );
    case "count":
      return ask(
        api.PUT("/api/rides/{ride}/counts/{rep}", { params: { path: { ride, rep } }, body: item.body }),
      );
    case "check":
      return ask(
        api.PUT("/api/rides/{ride}/checks/{check}", {
          params: { path: { ride, check: rep } },
          body: item.body,
        }),
      );
    case "tack":
      return ask(
        api.PUT("/api/rides/{ride}/tack/{id}", { params: { path: { ride, id: rep } }, body: item.body }),
      );
    case "cattle":
      return ask(
        api.PUT("/api/rides/{ride}/cattle/{id}", { params: { path: { ride, id: rep } }, body: item.body }),
      );
    case "exercise":
      return ask(
        api.PUT("/api/rides/{ride}/exercises/{id}", { params: { path: { ride, id: rep } }, body: item.body }),
      );
    case "hand-in":
      return ask(api.PUT("/api/unplaced/{id}", { params: { path: { id: rep } }, body: item.body }));
    case "correct":
      return ask(api.PATCH("/api/reps/{id}", { params: { path: { id: rep } }, body: item.body }));
    case "correct-count":
      return ask(api.PATCH("/api/counts/{id}", { params: { path: { id: rep } }, body: item.body }));
  }
}

/** What the server would not take, in the order in which it was sent. */
export function refusedItems(): Refusal[] {
  return state.refused;
}

/** What was refused as a file: the requests as they were, with why each was refused. */
export function exported(refused = refusedItems()): Blob {
  const rows = refused.map(({ item, why }) => ({ why, ...item }));
  return new Blob([JSON.stringify(rows, null, 2)], { type: "application/json" });
}

/** Forgets a refused item. */
export function discard(refusal: Refusal) {
  sendInstead([refusal], []);
}

/** Sends other items in the place of refused ones. They are on the device before those are forgotten. */
export function sendInstead(refused: Refusal[], items: Item[]) {
  items.forEach(put);
  refused.forEach((r) => forget(r.item));
  tell({ ...state, refused: state.refused.filter((r) => !refused.includes(r)) });
}

/** What was set aside since it was last read. */
export function setAside(): SetAside | null {
  return state.aside;
}

/** Stops telling that something was set aside; it waits on Today for a trainer. */
export function asideIsRead() {
  tell({ ...state, aside: null });
}

/** Items that others kept on this device and that are still here, by person. */
export function ofOthers(): Map<string, Item[]> {
  const found = new Map<string, Item[]>();
  for (const place of placesOf("")) {
    const person = place.slice(KEY.length + 1).split(".")[0] ?? "";
    const read = person === owner ? null : parse(localStorage.getItem(place));
    if (!read) continue;
    places.set(read.item, place);
    found.set(person, [...(found.get(person) ?? []), read.item]);
  }
  return found;
}

/** Hands in what another person logged on this device, as theirs: it waits on Today to be placed. What is no log of a ride stays. */
export async function handInFor(person: string, items: Item[]): Promise<void> {
  for (const item of items) {
    const handed = handIn({ item, why: "Kept on this device, never sent" }, person);
    if (!handed) continue;
    await send(handed);
    forget(item);
  }
}

/** A refused log or count as something for a trainer to place. None where it is neither. */
export function handIn({ item, why }: Refusal, person: string | null = null): Item | null {
  if (item.kind !== "log" && item.kind !== "count") return null;
  const kind = item.kind === "log" ? "rep" : "count";
  const { ride, rep, body } = item;
  // The generated type of an object of any kind has no fields.
  const whole = body as unknown as Schemas["UnplacedIn"]["body"];
  return { kind: "hand-in", ride, rep, body: { kind, ride_id: ride, person_id: person, body: whole, why } };
}

/** What waits for a ride, to be laid over what the server knows. */
export function waitingFor(ride: string): Item[] {
  return state.waiting.filter((item) => item.ride === ride);
}

/** How many things wait to be sent. */
export function waitingCount(): number {
  return state.waiting.length;
}

export function useOutbox(): State {
  return useSyncExternalStore(
    (hear) => {
      listeners.add(hear);
      return () => listeners.delete(hear);
    },
    () => state,
  );
}

window.addEventListener("online", () => void flush());
// Another page of this browser put something in or sent something.
window.addEventListener("storage", (event) => {
  if (event.key?.startsWith(`${KEY}.${owner}.`)) tell({ ...state, ...readKept() });
});
